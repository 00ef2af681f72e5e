<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\VlanIntent;
use HarborPost\Core\Exchange\Intent\Intent;
use HarborPost\Core\Exchange\Intent\Rule;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Net\PrefixSet;
use Illuminate\Database\Eloquent\Collection;

/** What clients of VLANs are meant to reach, read for many at once. */
final class Intents
{
    /**
     * @param  list<string>  $vlans  ids
     * @return array<string, Intent> VLAN → its intent; those without a rule are left out
     */
    public static function of(array $vlans): array
    {
        $rows = VlanIntent::query()->whereIn('vlan_id', $vlans)->orderBy('id')->get();
        $subnets = Prefix::query()->whereIn('vlan_id', $rows->pluck('to_vlan_id')->filter()->unique()->values())
            ->where('kind', PrefixKind::Subnet)
            ->orderBy('family')->orderBy('first')->get()->groupBy('vlan_id');

        return $rows->groupBy('vlan_id')->map(static fn (Collection $of): Intent => Intent::of(...array_values($of->map(
            static fn (VlanIntent $i): Rule => $i->rule(array_values(
                ($subnets[$i->to_vlan_id ?? ''] ?? new Collection)->map(static fn (Prefix $p) => $p->prefix())->all(),
            )),
        )->all())))->all();
    }

    /**
     * Written otherwise, the same addresses are the same denial.
     *
     * @param  list<string>  $these  prefixes
     * @param  list<string>  $those
     */
    public static function same(array $these, array $those): bool
    {
        return self::set($these)->equals(self::set($those));
    }

    /**
     * What of one list of prefixes is not in another, as the fewest prefixes.
     *
     * @param  list<string>  $these
     * @param  list<string>  $those
     * @return list<string>
     */
    public static function apart(array $these, array $those): array
    {
        return array_map(strval(...), self::set($these)->difference(self::set($those))->prefixes());
    }

    /** @param  list<string>  $texts  what is no prefix is left out */
    private static function set(array $texts): PrefixSet
    {
        return PrefixSet::of(...array_filter(array_map(Net::tryParse(...), array_values($texts))));
    }

    /**
     * @param  list<string>  $vlans  ids
     * @return Collection<int, VlanIntent> all rules that name one of them on either side
     */
    public static function naming(array $vlans): Collection
    {
        return VlanIntent::query()->with(['vlan.domain', 'toVlan.domain'])
            ->where(static fn ($q) => $q->whereIn('vlan_id', $vlans)->orWhereIn('to_vlan_id', $vlans))->orderBy('id')->get();
    }
}
