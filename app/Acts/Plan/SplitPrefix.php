<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Plan\Tree;
use App\Models\Host;
use App\Models\Prefix;
use App\Models\Scope;
use App\Queries\Inherited;
use HarborPost\Core\Net\Prefix as Net;

/**
 * A prefix is cut into equal pieces. The piece with the gateway, or the first, stays the same object; hosts stay where their address is.
 */
final readonly class SplitPrefix extends Reshape
{
    private const MOST = 256;

    public function __construct(
        #[Field(Kind::Id, 'Prefix', of: Prefix::class)]
        public string $prefix,
        #[Field(Kind::Number, 'Length', most: 128, least: 0)]
        public int $length,
    ) {
    }

    public function title(): string
    {
        return 'Split '.(Prefix::query()->find($this->prefix)?->line() ?? 'a prefix')." into /$this->length";
    }

    public function landing(): string
    {
        $row = Prefix::query()->find($this->prefix);

        return at('plan.prefix', $row->parent_id ?? $this->prefix);
    }

    public function apply(Ledger $ledger): void
    {
        $row = self::lock($ledger, $this->prefix);
        $net = $row->prefix();
        $bits = $net->family()->bits();
        if ($this->length <= $net->length || $this->length > $bits || $this->length - $net->length > 8) {
            $ledger->refuse(
                'bad-length',
                'A length from /'.($net->length + 1).' to /'.min($bits, $net->length + 8)." cuts $net into at most ".self::MOST.' pieces',
                field: 'length',
            );
        }
        if ($row->groups && Prefix::query()->where('parent_id', $row->id)->where('length', '<', $this->length)->exists()) {
            $cut = Prefix::query()->where('parent_id', $row->id)->where('length', '<', $this->length)->orderBy('first')->firstOrFail();
            $ledger->refuse(
                'child-crosses',
                "{$cut->line()} is larger than a /$this->length",
                'It would lie across pieces.',
                null,
                'length',
                at('plan.prefix', $cut->id),
            );
        }
        $pieces = $this->pieces($net);
        $keep = $this->kept($ledger, $row, $pieces);
        $parent = $row->parent;
        foreach ($row->isSubnet() ? $pieces : [] as $piece) {
            $this->checkEnds($ledger, $row, $piece);
        }
        $old = $row->prefix();
        Tree::resize($row, $parent, $keep, $parent?->refresh());
        foreach ($pieces as $piece) {
            if ($piece->equals($keep)) {
                continue;
            }
            $new = self::like($row, $piece, $parent);
            $new->gateway = $row->isSubnet() && $row->gateway !== null ? app(Inherited::class)->gatewayOf($new) : null;
            Tree::insert($new, $parent?->refresh());
            $row->isSubnet() && self::handOver($row, $new, $piece->range());
            if (
                $new->gateway !== null
                    && Host::query()->where('prefix_id', $new->id)->where('address', $new->gateway->bytes)
                        ->where('role', '!=', 'gateway')->exists()
            ) {
                $ledger->warn('gateway-is-host', "$new->gateway, the gateway by habit, is a host", "$piece gets no gateway yet.");
                $new->gateway = null;
                $new->save();
            }
        }
        $row->vlan_id === null
            || ! $row->isSubnet()
                ?: $ledger->warn(
                    'shared-vlan',
                    'All pieces stay in one VLAN',
                    'Give the others a VLAN of their own if they become links of their own.',
                );
        $ledger->passed('split', "$old becomes ".count($pieces)." /$this->length");
    }

    /** @return non-empty-list<Net> */
    private function pieces(Net $net): array
    {
        $pieces = [];
        for ($at = $net->first; $at !== null && $net->contains($at); $at = $at->in($this->length)->last()->next()) {
            $pieces[] = $at->in($this->length);
        }

        return $pieces === [] ? [$net] : $pieces;
    }

    /** @param  non-empty-list<Net>  $pieces */
    private function kept(Ledger $ledger, Prefix $row, array $pieces): Net
    {
        $keep = $pieces[0];
        foreach ($pieces as $piece) {
            $keep = $row->gateway !== null && $piece->contains($row->gateway) ? $piece : $keep;
        }
        $scope = Scope::query()->with('ranges')->where('prefix_id', $row->id)->first();
        if ($scope === null) {
            return $keep;
        }
        // A scope stays whole: the piece with its ranges stays the same object.
        foreach ($pieces as $piece) {
            if ($scope->ranges->isNotEmpty() && $scope->ranges->every(fn ($r): bool => $piece->usable()->contains($r->range()))) {
                $keep = $piece;
            }
        }
        foreach ($scope->ranges as $range) {
            if (! $keep->usable()->contains($range->range())) {
                $ledger->refuse(
                    'range-crosses',
                    "The range {$range->range()} of the scope $scope->name lies across pieces",
                    'Shorten the range to one piece first.',
                    null,
                    'length',
                    at('lease.scope', $scope->id),
                );
            }
        }
        foreach ($scope->reservations as $reservation) {
            if (! $keep->contains($reservation->address)) {
                $ledger->refuse(
                    'reservation-crosses',
                    "The reservation of $reservation->address would lie outside the scope's piece $keep",
                    'Remove it first.',
                    null,
                    'length',
                    at('lease.scope', $scope->id),
                );
            }
        }
        if ($row->gateway !== null && ! $keep->contains($row->gateway)) {
            $ledger->refuse(
                'gateway-apart',
                "The gateway $row->gateway and the scope $scope->name would lie in different pieces",
                'Change one of them first.',
                null,
                'length',
                at('lease.scope', $scope->id),
            );
        }

        return $keep;
    }

    private function checkEnds(Ledger $ledger, Prefix $row, Net $piece): void
    {
        $usable = $piece->usable();
        $ends = array_filter([$piece->first, $piece->last()], fn ($a): bool => ! $usable->contains($a));
        $host = $ends === []
            ? null
            : Host::query()->where('prefix_id', $row->id)->whereIn('address', array_map(fn ($a): string => $a->bytes, $ends))->first();
        if ($host !== null) {
            $ledger->refuse(
                'host-at-end',
                "{$host->line()} would stand on the network or broadcast address of $piece",
                'Give it another address first.',
                'RFC 1122 §3.2.1.3',
                'length',
                at('plan.prefix', $row->id)."?address=$host->address",
            );
        }
    }
}
