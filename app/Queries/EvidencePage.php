<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Host;
use App\Models\Lease;
use App\Models\Prefix;
use App\Models\Record;
use App\Models\Reservation;
use App\Models\RunState;
use App\Models\Scope;
use Carbon\CarbonImmutable;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Planning\Evidence;
use Illuminate\Support\Facades\DB;

/** What is known of each address of a subnet from all sides, a page at a time, each with its time, and what it amounts to. */
final readonly class EvidencePage
{
    public const ROWS = 80;

    /**
     * @return array{rows: list<array{address: Address, gateway: bool, host: ?Host, dns: list<string>, ptr: string, reserved: ?Reservation,
     *     lease: ?Lease, seen: ?array{mac: ?MacAddress, last: CarbonImmutable}, verdict: array{code: string, words: string,
     *     agrees: bool}}>, next: ?string}
     */
    public static function of(Prefix $subnet, string $from, bool $onlyConflicts = false): array
    {
        $net = $subnet->prefix();
        $start = (Address::tryParse($from) ?? $net->first)->bytes;
        $range = [$start, $net->last()->bytes];
        $scope = Scope::query()->with('ranges')->where('prefix_id', $subnet->id)->first();
        // Each source gives its lowest addresses by its own index; their union is cut where the shortest of them ends.
        $limit = self::ROWS + 1;
        $hosts = Host::query()->where('prefix_id', $subnet->id)->whereBetween('address', $range)->orderBy('address')->limit($limit)->get();
        $leases = $scope === null
            ? collect()
            : InUse::activeLeases()->where('scope_id', $scope->id)->whereBetween('address', $range)->orderBy('address')
                ->limit($limit)->get();
        $reserved = $scope === null
            ? collect()
            : Reservation::query()->where('scope_id', $scope->id)->whereBetween('address', $range)->orderBy('address')
                ->limit($limit)->get();
        $seen = DB::table('sightings')->where('space_id', $subnet->space_id)->where('family', $subnet->family)
            ->whereBetween('address', $range)->orderBy('address')->limit($limit)->get();
        $keys = [];
        $horizon = $net->last()->bytes;
        foreach ([$hosts, $leases, $reserved] as $rows) {
            foreach ($rows as $row) {
                $keys[bin2hex($row->address->bytes)] = true;
            }
            $horizon = $rows->count() === $limit ? self::lower($horizon, $rows->last()->address->bytes) : $horizon;
        }
        foreach ($seen as $row) {
            $keys[bin2hex((string) $row->address)] = true;
        }
        $horizon = $seen->count() === $limit ? self::lower($horizon, (string) $seen->last()?->address) : $horizon;
        $all = array_values(
            array_filter(
                array_map(fn (int|string $k): string => (string) hex2bin((string) $k), array_keys($keys)),
                fn (string $b): bool => strcmp($b, $horizon) <= 0,
            ),
        );
        sort($all, SORT_STRING);
        $next = count($all) > self::ROWS
            || $horizon !== $net->last()->bytes ? (string) Address::fromBytes($all[self::ROWS] ?? $horizon) : null;
        $page = array_slice($all, 0, self::ROWS);
        $rows = self::rows($subnet, $page, $hosts->all(), $leases->all(), $reserved->all(), $seen->all(), $scope);

        return [
            'rows' => array_values(array_filter($rows, fn (array $r): bool => ! $onlyConflicts || ! $r['verdict']['agrees'])),
            'next' => $next,
        ];
    }

    /**
     * @param  list<string>  $page  bytes
     * @param  array<int, Host>  $hosts
     * @param  array<int, Lease>  $leases
     * @param  array<int, Reservation>  $reserved
     * @param  array<int, \stdClass>  $seen
     * @return list<array{address: Address, gateway: bool, host: ?Host, dns: list<string>, ptr: string, reserved: ?Reservation,
     *     lease: ?Lease, seen: ?array{mac: ?MacAddress, last: CarbonImmutable}, verdict: array{code: string, words: string, agrees: bool}}>
     */
    private static function rows(
        Prefix $subnet,
        array $page,
        array $hosts,
        array $leases,
        array $reserved,
        array $seen,
        ?Scope $scope,
    ): array {
        $by = fn (array $rows): array => array_combine(
            array_map(fn ($r): string => bin2hex($r->address instanceof Address ? $r->address->bytes : (string) $r->address), $rows),
            $rows,
        );
        [$hosts, $leases, $reserved, $seen] = array_map($by, [$hosts, $leases, $reserved, $seen]);
        [$names, $ptrs] = self::names($page);
        $scanned = DB::table('scans')->where('space_id', $subnet->space_id)->where('state', RunState::Done)
            ->whereJsonContains('prefixes', $subnet->id)->max('finished_at');
        $rows = [];
        foreach ($page as $bytes) {
            $key = bin2hex($bytes);
            $address = Address::fromBytes($bytes);
            $host = $hosts[$key] ?? null;
            $sighting = $seen[$key] ?? null;
            $last = $sighting === null ? null : CarbonImmutable::parse($sighting->last_seen);
            // Seen in the latest scan, or only in an earlier one.
            $fresh = $last !== null
                && ($scanned === null || $last->greaterThanOrEqualTo(CarbonImmutable::parse((string) $scanned)->subHours(1)));
            $mac = $sighting === null || $sighting->mac === null ? null : MacAddress::fromBytes((string) $sighting->mac);
            $lease = $leases[$key] ?? null;
            $evidence = new Evidence(
                planned: $host !== null || $subnet->gateway !== null && $subnet->gateway->equals($address),
                plannedName: $host->name ?? '',
                plannedMac: (string) ($host->mac ?? ''),
                dns: $names[(string) $address] ?? [],
                ptr: $ptrs[(string) $address] ?? '',
                reserved: isset($reserved[$key]) ? (string) $reserved[$key]->mac : '',
                leased: $lease === null ? '' : (string) $lease->mac,
                seen: $fresh ? (string) ($mac ?? '?') : '',
                scanned: $scanned !== null,
                seenBefore: $last !== null,
                dynamic: $scope !== null && $scope->ranges->contains(fn ($r): bool => $r->range()->contains($address)),
            );
            $rows[] = [
                'address' => $address, 'gateway' => $subnet->gateway !== null && $subnet->gateway->equals($address), 'host' => $host,
                'dns' => $names[(string) $address] ?? [], 'ptr' => $ptrs[(string) $address] ?? '',
                'reserved' => $reserved[$key] ?? null, 'lease' => $lease,
                'seen' => $last === null ? null : ['mac' => $mac, 'last' => $last], 'verdict' => $evidence->verdict(),
            ];
        }

        return $rows;
    }

    /**
     * @param  list<string>  $page
     * @return array{array<string, list<string>>, array<string, string>} address → names that point to it; address → the name it points
     *     back to
     */
    private static function names(array $page): array
    {
        $names = $ptrs = [];
        $reverse = [];
        foreach ($page as $bytes) {
            $reverse[(string) ReverseName::of(Address::fromBytes($bytes))] = (string) Address::fromBytes($bytes);
        }
        foreach (
            Record::query()->whereIn('data_hash', array_map(fn (string $b): string => md5($b, true), $page))
                ->whereIn('type', [RecordType::A, RecordType::AAAA])->get(['owner', 'data']) as $record
        ) {
            $name = rtrim($record->owner, '.');
            in_array($name, $names[$record->data] ?? [], true) || $names[$record->data][] = $name;
        }
        foreach (
            Record::query()->whereIn('owner', array_keys($reverse))->where('type', RecordType::PTR)->get(['owner', 'data']) as $record
        ) {
            $ptrs[$reverse[$record->owner]] = rtrim($record->data, '.');
        }

        return [$names, $ptrs];
    }

    /** Bytes are compared as bytes: PHP reads some of them as numbers. */
    private static function lower(string $a, string $b): string
    {
        return strcmp($a, $b) <= 0 ? $a : $b;
    }
}
