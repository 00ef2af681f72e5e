<?php

declare(strict_types=1);

namespace App\Domain\Lease;

use App\Acts\Engine\Ledger;
use App\Models\Prefix;
use App\Models\Scope;
use App\Models\Stage;
use App\Models\Vlan;

/** A VLAN that carries several subnets is one link: what is done to a scope of it reaches the scopes beside it. */
final class LinkShare
{
    /** A subnet goes from one VLAN to another, and its scope with it. */
    public static function moved(Ledger $ledger, Prefix $subnet, ?string $from, ?string $to): void
    {
        $scope = Scope::query()->where('prefix_id', $subnet->id)->where('stage', '!=', Stage::Planned)->first();
        if ($scope === null || $subnet->family !== 4) {
            return;
        }
        $ledger->reaches([$scope->id]);
        self::say($ledger, $subnet, $from);
        self::say($ledger, $subnet, $to);
    }

    /** Says which scopes are served otherwise from now on, since one of their link came, went or changed; called when that is written. */
    public static function say(Ledger $ledger, Prefix $subnet, ?string $vlan): void
    {
        if ($vlan === null || $subnet->family !== 4) {
            return;
        }
        $beside = Scope::query()->whereHas('prefix', fn ($q) => $q->where('vlan_id', $vlan)->where('family', 4)->whereKeyNot($subnet->id))
            ->where('stage', '!=', Stage::Planned)->orderBy('name')->get();
        if ($beside->isEmpty()) {
            return;
        }
        $ledger->reaches(array_values($beside->map(static fn (Scope $s): string => $s->id)->all()));
        $names = $beside->take(3)->map(static fn (Scope $s): string => $s->name)->implode(', ').($beside->count() > 3 ? ' and others' : '');
        $line = Vlan::query()->find($vlan)?->line() ?? '';
        $ledger->later("Scopes on the link of VLAN $line are served as one: $names ".($beside->count() === 1 ? 'is' : 'are')
            .' brought to the servers too');
    }
}
