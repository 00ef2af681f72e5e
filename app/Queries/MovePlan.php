<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\HeldRun;
use App\Models\Host;
use App\Models\Prefix;
use App\Models\Record;
use App\Models\Scope;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Planning\Renumbering;

/** What a move of a subnet changes, line by line: old, new, and what is in the way. */
final readonly class MovePlan
{
    /** Up to so many addresses, names are looked for at each of them. */
    private const SEARCHED = 4096;

    /**
     * @param  list<array{what: string, label: string, old: string, new: string, conflict: ?string, zoneless: bool}>  $rows
     * @param  list<array{host: Host, new: Address}>  $hosts  those that move
     * @param  list<array{record: Record, new: Address}>  $strays  records that point into the subnet and belong to no host
     */
    private function __construct(
        public Renumbering $by,
        public array $rows,
        public array $hosts,
        public ?Scope $scope,
        public array $strays,
    ) {
    }

    public static function of(Prefix $row, Net $to): self
    {
        $by = Renumbering::between($row->prefix(), $to);
        $rows = [];
        $hosts = Host::query()->where('prefix_id', $row->id)->orderBy('address')->get()
            ->keyBy(fn (Host $h): string => (string) $h->address);
        if ($row->gateway !== null) {
            $new = $by->of($row->gateway);
            $rows[] = self::line(
                'gateway',
                '',
                (string) $row->gateway,
                $new,
                $new !== null && ! $to->usable()->contains($new) ? "$new cannot be given to a router" : null,
            );
        }
        $names = Record::query()->with('zone')->whereIn('address_id', $hosts->pluck('id'))->orderBy('type')->get()->groupBy('address_id');
        $inDns = self::namesAt($to);
        $table = $by->table(
            $hosts->map(fn (Host $h): Address => $h->address)->values()->all(),
            fn (Address $a): ?string => $inDns[(string) $a] ?? null,
        );
        $moving = [];
        foreach ($table as ['old' => $old, 'new' => $new, 'conflict' => $conflict]) {
            $host = $hosts[(string) $old] ?? throw new \LogicException("$old was asked for and is no host");
            $rows[] = self::line('address', $host->name, (string) $old, $new, $conflict);
            $new === null ?: $moving[] = ['host' => $host, 'new' => $new];
            foreach ($names[$host->id] ?? [] as $record) {
                $rows[] = $record->type === RecordType::PTR
                    ? self::pointer($record, $new)
                    : self::line($record->typeName(), rtrim($record->owner, '.'), $record->data, $new, null);
            }
        }
        [$strays, $lines] = self::strays($row, $by, $hosts->all());
        $rows = [...$rows, ...$lines];
        $scope = Scope::query()->with(['ranges', 'exclusions', 'reservations', 'optionValues'])->where('prefix_id', $row->id)->first();
        foreach ($scope->ranges ?? [] as $range) {
            $rows[] = self::line('range', $scope->name ?? '', (string) $range->range(), self::whole($by, $range->range()), null);
        }
        foreach ($scope->exclusions ?? [] as $range) {
            $rows[] = self::line('exclusion', $scope->name ?? '', (string) $range->range(), self::whole($by, $range->range()), null);
        }
        foreach ($scope->reservations ?? [] as $reservation) {
            $rows[] = self::line(
                'reservation',
                trim("{$reservation->client()} $reservation->name"),
                (string) $reservation->address,
                $by->of($reservation->address),
                null,
            );
        }
        foreach (HeldRun::query()->where('prefix_id', $row->id)->orderBy('first')->get() as $run) {
            $rows[] = self::line('held run', $run->reason, (string) $run->range(), self::whole($by, $run->range()), null);
        }

        return new self($by, $rows, $moving, $scope, $strays);
    }

    /** @return list<array{what: string, label: string, old: string, new: string, conflict: ?string, zoneless: bool}> */
    public function conflicts(): array
    {
        return array_values(array_filter($this->rows, fn (array $r): bool => $r['conflict'] !== null));
    }

    /** How many PTRs have no zone in the target: one fault, mended by making the zone. */
    public function withoutZone(): int
    {
        return count(array_filter($this->rows, fn (array $r): bool => $r['zoneless']));
    }

    /** Leases that run on until they end, although the scope moves. */
    public function leases(): int
    {
        return $this->scope === null ? 0 : InUse::activeLeases()->where('scope_id', $this->scope->id)->count();
    }

    /** @return array{what: string, label: string, old: string, new: string, conflict: ?string, zoneless: bool} */
    private static function line(string $what, string $label, string $old, ?object $new, ?string $conflict, bool $zoneless = false): array
    {
        return [
            'what' => $what, 'label' => $label, 'old' => $old, 'new' => $new instanceof \Stringable ? rtrim((string) $new, '.') : '',
            'conflict' => $zoneless ? 'no reverse zone covers it' : ($new === null ? 'the target is too small for it' : $conflict),
            'zoneless' => $zoneless,
        ];
    }

    /** A stretch moves whole or not at all: a range that is cut could not be had back by moving back. */
    private static function whole(Renumbering $by, AddressRange $range): ?AddressRange
    {
        $moved = $by->ofRange($range);

        return $moved !== null && $moved->size()->isEqualTo($range->size()) ? $moved : null;
    }

    /** @return array{what: string, label: string, old: string, new: string, conflict: ?string, zoneless: bool} */
    private static function pointer(Record $record, ?Address $new): array
    {
        $label = rtrim($record->data, '.');
        $old = rtrim($record->owner, '.');
        if ($new === null) {
            return self::line('PTR', $label, $old, null, null);
        }
        [$zone, $name] = Zones::pointer($new, $record->zone->view_id) ?? [null, null];
        if ($zone === null || $name === null) {
            return self::line('PTR', $label, $old, ReverseName::of($new), null, true);
        }
        $there = Record::query()->where('zone_id', $zone->id)->where('owner_key', $name->sortKey())
            ->where('type', RecordType::PTR)->whereNull('address_id')->value('data');

        return self::line('PTR', $label, $old, $name, is_string($there) ? "$new already points back to ".rtrim($there, '.') : null);
    }

    /**
     * Records that point at an address of the subnet without belonging to a host: they follow, else they would point at nothing.
     *
     * @param  array<array-key, Host>  $hosts
     * @return array{list<array{record: Record, new: Address}>, list<array{what: string, label: string, old: string, new: string,
     *     conflict: ?string, zoneless: bool}>}
     */
    private static function strays(Prefix $row, Renumbering $by, array $hosts): array
    {
        $addresses = $row->prefix()->size()->isLessThanOrEqualTo(self::SEARCHED)
            ? self::all($row->prefix())
            : array_values(array_map(fn (Host $h): Address => $h->address, $hosts));
        $strays = $lines = [];
        foreach (array_chunk($addresses, 1000) as $chunk) {
            $found = Record::query()->with('zone')->whereNull('address_id')
                ->whereIn('type', [RecordType::A, RecordType::AAAA])
                ->whereIn('data_hash', array_map(fn (Address $a): string => md5($a->bytes, true), $chunk))
                ->orderBy('owner')->get();
            foreach ($found as $record) {
                $new = $by->of(Address::parse($record->data));
                $lines[] = self::line($record->typeName().', no host', rtrim($record->owner, '.'), $record->data, $new, null);
                if ($new !== null) {
                    $strays[] = ['record' => $record, 'new' => $new];
                }
            }
        }

        return [$strays, $lines];
    }

    /** @return list<Address> */
    private static function all(Net $net): array
    {
        $all = [];
        for ($at = $net->first; $at !== null && $net->contains($at); $at = $at->next()) {
            $all[] = $at;
        }

        return $all;
    }

    /** @return array<string, string> address in the target → a name that points there already */
    private static function namesAt(Net $to): array
    {
        if ($to->size()->isGreaterThan(self::SEARCHED)) {
            return [];
        }
        $names = [];
        foreach (array_chunk(array_map(strval(...), self::all($to)), 1000) as $chunk) {
            foreach (
                Record::query()->whereIn('type', [RecordType::A, RecordType::AAAA])
                    ->whereIn('data_hash', array_map(fn (string $a): string => md5(Address::parse($a)->bytes, true), $chunk))
                    ->get() as $record
            ) {
                $names[$record->data] = 'the name '.rtrim($record->owner, '.').' points there already';
            }
        }

        return $names;
    }
}
