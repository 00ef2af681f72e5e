<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Domain\Plan\Counter;
use App\Domain\Plan\Tree;
use App\Models\HeldRun;
use App\Models\Host;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Scope;
use App\Queries\Granted;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix as Net;

/** An act that changes the size or the place of a prefix: who may, and the checks that all of them share. */
abstract readonly class Reshape extends Act
{
    public const LISTED = 6;

    public static function may(Person $person): bool
    {
        return Granted::plans($person);
    }

    protected static function lock(Ledger $ledger, string $id): Prefix
    {
        $row = Prefix::query()->find($id) ?? $ledger->refuse('gone', 'The prefix is not there any more');
        Tree::lock($row->space, $row->parent);
        Tree::lock($row->space, $row);
        Guard::alone("subnet:$row->id");
        $row->refresh();

        return $row;
    }

    protected static function net(Ledger $ledger, string $text, string $field): Net
    {
        try {
            return Net::parse($text);
        } catch (NotUnderstood $e) {
            $ledger->refuse('not-a-prefix', $e->getMessage(), '', 'RFC 4632 §3.1', $field, null, $e->suggestion);
        }
    }

    /** Nothing of the link may be left outside its new extent, or stand on an address that no host may have there. */
    protected static function checkInside(Ledger $ledger, Prefix $row, Net $net): void
    {
        $usable = $net->usable();
        $out = Host::query()->where('prefix_id', $row->id)
            ->where(fn ($q) => $q->where('address', '<', $usable->first->bytes)->orWhere('address', '>', $usable->last->bytes))
            ->orderBy('address')->limit(self::LISTED + 1)->get();
        if ($out->isNotEmpty()) {
            $ledger->refuse(
                'hosts-outside',
                ($out->count() > self::LISTED ? 'More than '.self::LISTED : $out->count())
                    ." hosts of {$row->line()} have no place in $net: "
                    .$out->take(self::LISTED)->map(fn (Host $h): string => $h->line())->implode(', '),
                "Usable there are $usable. Give them other addresses or release them first.",
                link: at('plan.prefix', $row->id)."?address={$out->firstOrFail()->address}",
            );
        }
        if ($row->gateway !== null && ! $usable->contains($row->gateway)) {
            $ledger->refuse(
                'gateway-outside',
                "The gateway $row->gateway has no place in $net",
                "Usable there are $usable. Change the gateway first.",
                null,
                'gateway',
                at('plan.prefix', $row->id),
            );
        }
        $scope = Scope::query()->with(['ranges', 'exclusions', 'reservations'])->where('prefix_id', $row->id)->first();
        if ($scope === null) {
            return;
        }
        foreach ($scope->ranges as $range) {
            if (! $usable->contains($range->range())) {
                $ledger->refuse(
                    'range-outside',
                    "The range {$range->range()} of the scope $scope->name has no place in $net",
                    'Shorten the range first.',
                    link: at('lease.scope', $scope->id),
                );
            }
        }
        foreach ($scope->reservations as $reservation) {
            if (! $usable->contains($reservation->address)) {
                $ledger->refuse(
                    'reservation-outside',
                    "The reservation of $reservation->address has no place in $net",
                    'Remove it first.',
                    link: at('lease.scope', $scope->id),
                );
            }
        }
        foreach (HeldRun::query()->where('prefix_id', $row->id)->get() as $run) {
            if (! $net->range()->contains($run->range())) {
                $ledger->refuse(
                    'run-outside',
                    "The held run {$run->range()} has no place in $net",
                    'Let it go first.',
                    link: at('plan.prefix', $row->id),
                );
            }
        }
    }

    /** Everything of one link that lies in a stretch becomes that of another link. */
    protected static function handOver(Prefix $from, Prefix $to, AddressRange $stretch): int
    {
        $hosts = Host::query()->where('prefix_id', $from->id)
            ->whereBetween('address', [$stretch->first->bytes, $stretch->last->bytes])->get();
        foreach ($hosts as $host) {
            $host->prefix_id = $to->id;
            $host->save();
        }
        if ($hosts->isNotEmpty()) {
            Counter::add($from->id, -$hosts->count());
            Counter::add($to->id, $hosts->count());
        }
        foreach (HeldRun::query()->where('prefix_id', $from->id)->get() as $run) {
            if ($stretch->contains($run->range())) {
                $run->prefix_id = $to->id;
                $run->save();
            }
        }

        return $hosts->count();
    }

    /** What a new piece shares with the prefix it came from. */
    protected static function like(Prefix $row, Net $net, ?Prefix $parent): Prefix
    {
        $piece = new Prefix(
            array_intersect_key(
                $row->getAttributes(),
                array_flip([
                    'space_id', 'family', 'groups', 'kind', 'stage', 'name', 'role', 'description', 'site_id', 'tenant_id', 'vlan_id',
                    'tags', 'own',
                ]),
            ),
        );
        $piece->id = (string) \Illuminate\Support\Str::ulid();
        $piece->first = $net->first;
        $piece->length = $net->length;
        $piece->parent_id = $parent?->id;

        return $piece;
    }
}
