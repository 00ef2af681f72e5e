<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Domain\Plan\Tree;
use App\Models\OptionValue;
use App\Models\Prefix;
use App\Models\Scope;
use App\Queries\Ancestors;
use App\Queries\Reach;

/** Two siblings become one prefix: the one that is named stays, the other's hosts, scope and children come to it. */
final readonly class MergePrefix extends Reshape
{
    public function __construct(
        #[Field(Kind::Id, 'Prefix', of: Prefix::class)]
        public string $prefix,
    ) {
    }

    public function title(): string
    {
        return 'Merge '.(Prefix::query()->find($this->prefix)?->line() ?? 'a prefix').' with its sibling';
    }

    public function landing(): string
    {
        return at('plan.prefix', $this->prefix);
    }

    public function apply(Ledger $ledger): void
    {
        $row = self::lock($ledger, $this->prefix);
        $net = $row->prefix();
        $sibling = $net->sibling() ?? $ledger->refuse('no-sibling', "$net has no sibling");
        $to = $net->supernet() ?? $net;
        $other = Prefix::query()->where('space_id', $row->space_id)->where('family', $row->family)
            ->where('first', $sibling->first->bytes)->where('length', $sibling->length)->where('kind', $row->kind)
            ->first();
        if ($other === null || $other->parent_id !== $row->parent_id) {
            $there = Ancestors::of($row->space_id, $sibling)->last(fn (Prefix $p): bool => $p->length >= $row->length);
            self::seen($ledger, $there);
            $ledger->refuse(
                'no-sibling',
                "The sibling $sibling is no {$row->kind->value}".($there === null ? '; it is open' : ": there is {$there->line()}"),
                $there === null ? 'Grow into it instead.' : '',
                link: $there === null ? null : at('plan.prefix', $there->id),
            );
        }
        self::seen($ledger, $other);
        $parent = $row->parent;
        if ($parent !== null && $row->groups && $parent->prefix()->equals($to)) {
            $ledger->refuse(
                'fills-parent',
                "The two fill {$parent->line()}",
                'A supernet in a supernet of the same size would group nothing: give the two back, and what they hold moves up.',
                link: at('plan.prefix', $parent->id),
            );
        }
        Tree::lock($row->space, $other);
        Guard::alone("subnet:$other->id");
        foreach (['vlan_id' => 'VLAN', 'site_id' => 'site', 'effective_tenant_id' => 'tenant', 'stage' => 'stage'] as $column => $what) {
            if ($other->$column !== $row->$column) {
                $ledger->warn("other-$what", "The two differ in their $what", "That of {$row->line()} stays.");
            }
        }
        if ($row->isSubnet()) {
            $this->scopes($ledger, $row, $other);
            self::handOver($other, $row, $other->prefix()->range());
            if ($other->gateway !== null) {
                $ledger->warn(
                    'gateway-goes',
                    "The gateway $other->gateway of $sibling goes",
                    'The gateway of the whole is '.($row->gateway ?? 'none').'; hosts there need the new one.',
                );
            }
        }
        Tree::remove($other->refresh(), $parent?->refresh());
        Tree::resize($row->refresh(), $parent?->refresh(), $to, $parent?->refresh());
        $row->isSubnet()
            && $ledger->later('Every host of both links needs the new mask: '.($row->family === 4 ? $to->mask() : "/$to->length"));
    }

    /** Of a neighbour that the person may not see nothing is told, not what it is called and not that it is there. */
    private static function seen(Ledger $ledger, ?Prefix $neighbour): void
    {
        if (
            $ledger->person?->isBound() === true
                && ($neighbour === null || ! Reach::of($ledger->person)->prefixes()->whereKey($neighbour->id)->exists())
        ) {
            $ledger->refuse('place-not-yours', 'What lies beside it is not available to you', 'Ask who planned it.');
        }
    }

    private function scopes(Ledger $ledger, Prefix $row, Prefix $other): void
    {
        $theirs = Scope::query()->with(['ranges', 'exclusions', 'reservations', 'placements'])->where('prefix_id', $other->id)->first();
        if ($theirs === null) {
            return;
        }
        $ours = Scope::query()->where('prefix_id', $row->id)->first();
        if ($ours === null) {
            $theirs->prefix_id = $row->id;
            $theirs->save();

            return;
        }
        $held = $ours->placements()->orderBy('id')->pluck('server_id');
        $leasing = $theirs->placements->count() === 1 ? $theirs->placements->sole()->server_id : null;
        foreach ($theirs->ranges as $range) {
            // Several servers lease the scope now: each range is the share of one of them, that of its own server where it stays.
            $server = $range->server_id ?? $leasing;
            $range->server_id = $held->count() < 2 ? null : ($held->contains($server) ? $server : $held[0]);
            if ($range->server_id !== $server && $held->count() > 1) {
                $ledger->warn(
                    'share-goes',
                    "{$range->range()} becomes the share of another server",
                    'Its own does not lease '.$ours->name.'.',
                    null,
                    null,
                    at('lease.scope', $ours->id),
                );
            }
        }
        foreach ([$theirs->ranges, $theirs->exclusions, $theirs->reservations] as $parts) {
            foreach ($parts as $part) {
                $part->scope_id = $ours->id;
                $part->save();
            }
        }
        $theirs->placements->each->delete();
        OptionValue::query()->where('layer', 'scope')->where('layer_id', $theirs->id)->get()->each->delete();
        $theirs->delete();
        $ledger->warn(
            'scopes-merge',
            "The scope $theirs->name goes into $ours->name",
            'Its ranges, exclusions and reservations come along; the options and servers of '.$ours->name.' hold.',
            null,
            null,
            at('lease.scope', $ours->id),
        );
    }
}
