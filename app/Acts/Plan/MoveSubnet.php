<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\Records;
use App\Domain\Plan\Tree;
use App\Models\HeldRun;
use App\Models\Host;
use App\Models\Prefix;
use App\Models\Record;
use App\Models\Reservation;
use App\Queries\MovePlan;
use App\Queries\Zones;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\A;
use HarborPost\Core\Dns\Rdata\Aaaa;
use HarborPost\Core\Dns\Rdata\Ptr;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Ttl;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Planning\Renumbering;

/**
 * A subnet gets another place: its hosts with their names both ways and reservations, its gateway, scope and held runs keep their distance
 * from the start. Moving it back is the same act with the old prefix.
 */
final readonly class MoveSubnet extends Reshape
{
    public function __construct(
        #[Field(Kind::Id, 'Prefix', of: Prefix::class)]
        public string $prefix,
        #[Field(Kind::Line, 'New prefix', most: 80)]
        public string $to,
        #[Field(
            Kind::Flag,
            'Without reverse zones',
            'Reverse zones that are missing are no reason to stop: the PTRs are left out, with a warning',
        )]
        public bool $withoutReverse = false,
    ) {
    }

    public function title(): string
    {
        return 'Move '.(Prefix::query()->find($this->prefix)?->line() ?? 'a subnet')." to $this->to";
    }

    public function landing(): string
    {
        return at('plan.prefix', $this->prefix);
    }

    public function apply(Ledger $ledger): void
    {
        $row = self::lock($ledger, $this->prefix);
        $to = self::net($ledger, $this->to, 'to');
        $from = $row->prefix();
        if (! $row->isSubnet()) {
            $ledger->refuse('no-link', "{$row->line()} is a {$row->kind->value}; subnets are moved", field: 'prefix');
        }
        if ($to->family() !== $from->family() || $to->overlaps($from)) {
            $ledger->refuse(
                'bad-target',
                $to->family() === $from->family() ? "$to overlaps $from" : "$to is of the other family",
                $to->family() === $from->family() ? 'To change its size where it stands, resize it.' : '',
                null,
                'to',
            );
        }
        $parent = $row->parent;
        $newParent = Tree::lockParent($row->space, $to, false);
        Tree::check($ledger, $row->space, $to, false, $row->id);
        $plan = MovePlan::of($row, $to);
        $this->stopAtConflicts($ledger, $plan);
        $ttl = 0;
        Tree::resize($row, $parent?->refresh(), $to, $newParent?->id === $parent?->id ? $parent?->refresh() : $newParent?->refresh());
        if ($row->gateway !== null) {
            $row->gateway = $plan->by->of($row->gateway);
            $row->save();
        }
        foreach ($plan->hosts as ['host' => $host, 'new' => $new]) {
            $ttl = max($ttl, $this->host($ledger, $host, $new));
        }
        foreach ($plan->strays as ['record' => $record, 'new' => $new]) {
            $ttl = max($ttl, $record->ttl ?? $record->zone->default_ttl);
            Records::change(
                $ledger,
                $record,
                Name::parse($record->owner),
                $record->ttl,
                $new->family === Family::V4 ? A::of($new) : Aaaa::of($new),
            );
        }
        if ($plan->strays !== []) {
            $ledger->warn(
                'names-without-host',
                count($plan->strays)
                    .(count($plan->strays) === 1 ? ' name that belongs to no host follows' : ' names that belong to no host follow'),
                'They pointed at addresses of this subnet, and would point at nothing.',
                null,
                'to',
            );
        }
        $this->scope($plan, $plan->by);
        foreach (HeldRun::query()->where('prefix_id', $row->id)->get() as $run) {
            $moved = $plan->by->ofRange($run->range());
            if ($moved !== null) {
                $run->first = $moved->first;
                $run->last = $moved->last;
                $run->save();
            }
        }
        $ttl === 0 ?: $ledger->later('Old answers may linger '.Ttl::of($ttl)->spoken().', the longest TTL');
        $plan->leases() === 0 ?: $ledger->later("{$plan->leases()} leases of the old range run on until they end");
        $ledger->later("To go back, move it to $from");
        $ledger->made += ['from' => (string) $from];
    }

    private function stopAtConflicts(Ledger $ledger, MovePlan $plan): void
    {
        $conflicts = $plan->conflicts();
        $real = array_values(array_filter($conflicts, fn (array $c): bool => ! ($this->withoutReverse && $c['zoneless'])));
        if ($real !== []) {
            $ledger->refuse(
                'conflicts',
                count($real)
                    .' of '
                    .count($plan->rows)
                    .' lines are in the way: '
                    .implode(
                        '; ',
                        array_map(
                            fn (array $c): string => "{$c['what']} {$c['old']}: {$c['conflict']}",
                            array_slice($real, 0, self::LISTED),
                        ),
                    ),
                'The table lists each of them.',
                null,
                'to',
                at('plan.prefix.move', $this->prefix).'?to='.urlencode($this->to),
            );
        }
        if ($conflicts !== []) {
            $ledger->warn(
                'no-reverse-zone',
                count($conflicts).' PTRs are left out: no reverse zone covers the new addresses',
                'Make the zone first to keep them.',
                'RFC 1912 §2.1',
                'withoutReverse',
                at('name.reverse').'?nets='.urlencode($this->to),
            );
        }
    }

    /** @return int the TTL of its records, which say how long the old answer lingers */
    private function host(Ledger $ledger, Host $host, Address $new): int
    {
        $ttl = 0;
        $host->address = $new;
        $host->save();
        foreach (Record::query()->with('zone')->where('address_id', $host->id)->get() as $record) {
            $ttl = max($ttl, $record->ttl ?? $record->zone->default_ttl);
            if ($record->type === RecordType::PTR) {
                $this->pointer($ledger, $record, $new);
            } else {
                Records::journal('-', $record);
                $record
                    ->fill(
                        array_diff_key(
                            Record::columns(
                                Name::parse($record->owner),
                                $record->ttl,
                                $new->family === Family::V4 ? A::of($new) : Aaaa::of($new),
                            ),
                            ['owner' => 0, 'owner_key' => 0],
                        ),
                    )
                    ->save();
                Records::journal('+', $record);
            }
        }
        foreach (Reservation::query()->where('address_id', $host->id)->get() as $reservation) {
            $reservation->address = $new;
            $reservation->save();
        }

        return $ttl;
    }

    private function pointer(Ledger $ledger, Record $record, Address $new): void
    {
        [$zone, $name] = Zones::pointer($new, $record->zone->view_id) ?? [null, null];
        if ($zone === null || $name === null) {
            Records::remove($record);

            return;
        }
        Records::journal('-', $record);
        $record->fill(['zone_id' => $zone->id] + Record::columns($name, $record->ttl, new Ptr(Name::parse($record->data))))->save();
        Records::journal('+', $record);
    }

    private function scope(MovePlan $plan, Renumbering $by): void
    {
        foreach ([$plan->scope->ranges ?? [], $plan->scope->exclusions ?? []] as $parts) {
            foreach ($parts as $part) {
                $moved = $by->ofRange($part->range());
                if ($moved !== null) {
                    $part->first = $moved->first;
                    $part->last = $moved->last;
                    $part->save();
                }
            }
        }
        foreach ($plan->scope->reservations ?? [] as $reservation) {
            if ($reservation->address_id === null) {
                $reservation->address = $by->of($reservation->address) ?? $reservation->address;
                $reservation->save();
            }
        }
        // The router option follows the gateway; other options name servers elsewhere.
        foreach ($plan->scope->optionValues ?? [] as $router) {
            if ($router->code !== OptionTable::ROUTER || $router->family !== Family::V4) {
                continue;
            }
            $router->values = array_map(
                fn (string $a): string => (string) (($old = Address::tryParse($a)) === null ? $a : $by->of($old) ?? $a),
                $router->values,
            );
            $router->save();
        }
    }
}
