<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Plan\Tree;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Queries\Ancestors;
use HarborPost\Core\Net\Prefix as Net;

/** A prefix grows into open space around it, or shrinks to a part of itself. Addresses stay as they are. */
final readonly class ResizePrefix extends Reshape
{
    public function __construct(
        #[Field(Kind::Id, 'Prefix', of: Prefix::class)]
        public string $prefix,
        #[Field(
            Kind::Line,
            'New prefix',
            'The new prefix: one that holds the present one, or a part of it; blank grows into the sibling',
            most: 80,
        )]
        public string $to = '',
    ) {
    }

    public function title(): string
    {
        return 'Resize '
            .(Prefix::query()->find($this->prefix)?->line() ?? 'a prefix')
            .($this->to === '' ? ' into its sibling' : " to $this->to");
    }

    public function landing(): string
    {
        return at('plan.prefix', $this->prefix);
    }

    public function apply(Ledger $ledger): void
    {
        $row = self::lock($ledger, $this->prefix);
        $net = $row->prefix();
        $to = $this->to === ''
            ? ($net->supernet() ?? $ledger->refuse('no-sibling', "$net has no sibling", field: 'to'))
            : self::net($ledger, $this->to, 'to');
        if ($to->equals($net) || ! $to->contains($net) && ! $net->contains($to)) {
            $ledger->refuse('not-around', "$to neither holds $net nor is a part of it", 'To give it another place, move it.', null, 'to');
        }
        $to->length < $net->length ? $this->grow($ledger, $row, $to) : $this->shrink($ledger, $row, $to);
    }

    private function grow(Ledger $ledger, Prefix $row, Net $to): void
    {
        $parent = $row->parent;
        $new = Ancestors::holder($row->space_id, $to, $row->groups, $row->id);
        if ($new?->id !== $parent?->id) {
            $ledger->refuse(
                'beyond-parent',
                "$to reaches beyond ".($parent?->line() ?? 'what holds it'),
                'Grow what holds it first.',
                null,
                'to',
                $parent === null ? null : at('plan.prefix', $parent->id),
            );
        }
        $inTheWay = Prefix::query()->where('space_id', $row->space_id)->where('family', $row->family)
            ->whereBetween('first', [$to->first->bytes, $to->last()->bytes])->where('length', '>=', $to->length)
            ->whereKeyNot($row->id)->where(fn ($q) => $q->whereNull('parent_id')->orWhere('parent_id', $row->parent_id))
            ->orderBy('first')->get()
            ->first(
                fn (Prefix $p): bool => $to->contains($p->prefix())
                    && ($parent === null || $p->id !== $parent->id)
                    && ($row->groups ? $p->prefix()->equals($to) : true),
            );
        if ($inTheWay !== null) {
            $ledger->refuse(
                'not-open',
                "{$inTheWay->line()} is in the way",
                'A prefix grows into open space only; merge siblings to take them in.',
                null,
                'to',
                at('plan.prefix', $inTheWay->id),
            );
        }
        Tree::check($ledger, $row->space, $to, $row->groups, $row->id, $row->kind === PrefixKind::Pool);
        if ($row->isSubnet()) {
            self::checkInside($ledger, $row, $to);
            $ledger->later(
                'Every host of the link needs the new mask: '
                    .($row->family === 4 ? $to->mask() : "/$to->length")
                    .'; leased clients get it when they renew',
            );
        }
        Tree::resize($row, $parent, $to, $parent?->refresh());
    }

    private function shrink(Ledger $ledger, Prefix $row, Net $to): void
    {
        $parent = $row->parent;
        if ($row->groups) {
            $out = Prefix::query()->where('parent_id', $row->id)->orderBy('first')->get()
                ->first(fn (Prefix $p): bool => ! $to->contains($p->prefix()) || $p->groups && $p->prefix()->equals($to));
            if ($out !== null) {
                $ledger->refuse(
                    'child-outside',
                    "{$out->line()} has no place in $to",
                    'Move it or give it back first.',
                    null,
                    'to',
                    at('plan.prefix', $out->id),
                );
            }
        } elseif ($row->isSubnet()) {
            self::checkInside($ledger, $row, $to);
            $ledger->later('Every host of the link needs the new mask: '.($row->family === 4 ? $to->mask() : "/$to->length"));
        }
        Tree::resize($row, $parent, $to, $parent?->refresh());
    }
}
