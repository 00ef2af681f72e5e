<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\HeldRun;
use App\Models\Host;
use App\Models\Lease;
use App\Models\Prefix;
use App\Models\Record;
use App\Models\Scope;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Planning\Renumbering;

/** What a move of a subnet changes, line by line: old, new, and what is in the way. */
final readonly class MovePlan
{
    private const NO_ZONE = 'no reverse zone covers it';

    /**
     * @param  list<array{what: string, label: string, old: string, new: string, conflict: ?string}>  $rows
     * @param  list<array{host: Host, new: Address}>  $hosts  those that move
     */
    private function __construct(public Renumbering $by, public array $rows, public array $hosts, public ?Scope $scope)
    {
    }

    public static function of(Prefix $row, Net $to): self
    {
        $by = Renumbering::between($row->prefix(), $to);
        $rows = [];
        $hosts = Host::query()->where('prefix_id', $row->id)->orderBy('address')->get()->keyBy(fn (Host $h): string => (string) $h->address);
        if ($row->gateway !== null) {
            $new = $by->of($row->gateway);
            $rows[] = self::line('gateway', '', (string) $row->gateway, $new, $new !== null && ! $to->usable()->contains($new) ? "$new cannot be given to a router" : null);
        }
        $names = Record::query()->with('zone')->whereIn('address_id', $hosts->pluck('id'))->orderBy('type')->get()->groupBy('address_id');
        $inDns = self::namesAt($to);
        $table = $by->table($hosts->map(fn (Host $h): Address => $h->address)->values()->all(), fn (Address $a): ?string => $inDns[(string) $a] ?? null);
        $moving = [];
        foreach ($table as ['old' => $old, 'new' => $new, 'conflict' => $conflict]) {
            $host = $hosts[(string) $old];
            $rows[] = self::line('address', $host->name, (string) $old, $new, $conflict);
            $new === null ?: $moving[] = ['host' => $host, 'new' => $new];
            foreach ($names[$host->id] ?? [] as $record) {
                $rows[] = $record->type === RecordType::PTR
                    ? self::line('PTR', rtrim($record->data, '.'), rtrim($record->owner, '.'), $new === null ? null : ReverseName::of($new), $new === null ? null : self::reverseFault($new, $record->zone->view_id))
                    : self::line($record->typeName(), rtrim($record->owner, '.'), $record->data, $new, null);
            }
        }
        $scope = Scope::query()->with(['ranges', 'exclusions', 'reservations'])->where('prefix_id', $row->id)->first();
        foreach ($scope->ranges ?? [] as $range) {
            $rows[] = self::line('range', $scope->name ?? '', (string) $range->range(), $by->ofRange($range->range()), null);
        }
        foreach ($scope->exclusions ?? [] as $range) {
            $rows[] = self::line('exclusion', $scope->name ?? '', (string) $range->range(), $by->ofRange($range->range()), null);
        }
        foreach ($scope->reservations ?? [] as $reservation) {
            $rows[] = self::line('reservation', trim("$reservation->mac $reservation->name"), (string) $reservation->address, $by->of($reservation->address), null);
        }
        foreach (HeldRun::query()->where('prefix_id', $row->id)->orderBy('first')->get() as $run) {
            $rows[] = self::line('held run', $run->reason, (string) $run->range(), $by->ofRange($run->range()), null);
        }

        return new self($by, $rows, $moving, $scope);
    }

    /** @return list<array{what: string, label: string, old: string, new: string, conflict: ?string}> */
    public function conflicts(): array
    {
        return array_values(array_filter($this->rows, fn (array $r): bool => $r['conflict'] !== null));
    }

    /** How many PTRs have no zone in the target: one fault, mended by making the zone. */
    public function withoutZone(): int
    {
        return count(array_filter($this->rows, fn (array $r): bool => $r['conflict'] === self::NO_ZONE));
    }

    /** Leases that run on until they end, although the scope moves. */
    public function leases(): int
    {
        return $this->scope === null ? 0 : Lease::query()->where('scope_id', $this->scope->id)->where('state', 'active')->where('ends_at', '>', now())->count();
    }

    /** @return array{what: string, label: string, old: string, new: string, conflict: ?string} */
    private static function line(string $what, string $label, string $old, ?object $new, ?string $conflict): array
    {
        return ['what' => $what, 'label' => $label, 'old' => $old, 'new' => $new instanceof \Stringable ? rtrim((string) $new, '.') : '', 'conflict' => $new === null ? 'the target is too small for it' : $conflict];
    }

    private static function reverseFault(Address $new, string $view): ?string
    {
        [$zone, $name] = Zones::pointer($new, $view) ?? [null, null];
        if ($zone === null || $name === null) {
            return self::NO_ZONE;
        }
        $there = Record::query()->where('zone_id', $zone->id)->where('owner_key', $name->sortKey())->where('type', RecordType::PTR)->whereNull('address_id')->value('data');

        return is_string($there) ? "$new already points back to ".rtrim($there, '.') : null;
    }

    /** @return array<string, string> address in the target → a name that points there already */
    private static function namesAt(Net $to): array
    {
        if ($to->family()->bits() - $to->length > 12) {
            return [];
        }
        $texts = [];
        for ($at = $to->first; $at !== null && $to->contains($at); $at = $at->next()) {
            $texts[] = (string) $at;
        }
        $names = [];
        foreach (array_chunk($texts, 1000) as $chunk) {
            foreach (Record::query()->whereIn('type', [RecordType::A, RecordType::AAAA])->whereIn('data_hash', array_map(fn (string $a): string => md5(Address::parse($a)->bytes, true), $chunk))->get() as $record) {
                $names[$record->data] = 'the name '.rtrim($record->owner, '.').' points there already';
            }
        }

        return $names;
    }
}
