<?php

declare(strict_types=1);

namespace App\Queries\Facts;

use App\Models\FactKind;
use App\Queries\Reach;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** Objects of a kind, starting at what the person may see, narrowed by site and conditions. */
final class FactQuery
{
    /**
     * @param  list<string>|null  $sites  ids; null: everywhere
     * @param  list<Condition>  $conditions
     */
    public static function of(FactKind $kind, Reach $reach, ?array $sites, array $conditions): Builder
    {
        $query = self::base($kind, $reach);
        if ($sites !== null && $kind->hasSite()) {
            $query->whereIn('s.id', $sites);
        }
        foreach (Condition::groups($conditions) as $group) {
            $query->where(static function (Builder $any) use ($kind, $group): void {
                foreach ($group as $condition) {
                    $any->orWhere(static fn (Builder $one) => $condition->test->narrow(
                        $one,
                        Catalogue::of($kind)[$condition->fact],
                        $condition->value,
                    ));
                }
            });
        }

        return $query;
    }

    /** @return literal-string the column that holds the id of the object */
    public static function id(FactKind $kind): string
    {
        return match ($kind) {
            FactKind::Subnet => 'p.id',
            FactKind::Address => 'a.id',
            FactKind::Zone => 'z.id',
            FactKind::Scope => 'c.id',
            FactKind::Vlan => 'v.id',
            FactKind::Server => 'r.id',
            FactKind::Device => 'd.id',
            FactKind::Change => 'h.act_id',
            FactKind::Person => 'u.id',
        };
    }

    private static function base(FactKind $kind, Reach $reach): Builder
    {
        $query = match ($kind) {
            FactKind::Subnet => DB::table('prefixes AS p')->where('p.kind', 'subnet')->leftJoin('sites AS s', 's.id', '=', 'p.site_id')
                ->leftJoin('vlans AS v', 'v.id', '=', 'p.vlan_id')->leftJoin('scopes AS c', 'c.prefix_id', '=', 'p.id')
                ->leftJoin('tenants AS t', 't.id', '=', 'p.effective_tenant_id'),
            FactKind::Address => DB::table('addresses AS a')->join('prefixes AS p', 'p.id', '=', 'a.prefix_id')
                ->leftJoin('sites AS s', 's.id', '=', 'p.site_id')->leftJoin('tenants AS t', 't.id', '=', 'p.effective_tenant_id')
                ->leftJoin('devices AS d', 'd.id', '=', 'a.device_id'),
            FactKind::Zone => DB::table('zones AS z')->join('views AS w', 'w.id', '=', 'z.view_id')
                ->leftJoin('signing_policies AS g', 'g.id', '=', 'z.policy_id')->leftJoin('tenants AS t', 't.id', '=', 'z.tenant_id'),
            FactKind::Scope => DB::table('scopes AS c')->join('prefixes AS p', 'p.id', '=', 'c.prefix_id')
                ->leftJoin('sites AS s', 's.id', '=', 'p.site_id')->leftJoin('tenants AS t', 't.id', '=', 'p.effective_tenant_id'),
            FactKind::Vlan => DB::table('vlans AS v')->join('layer2_domains AS l', 'l.id', '=', 'v.domain_id'),
            FactKind::Server => DB::table('servers AS r')->leftJoin('sites AS s', 's.id', '=', 'r.site_id'),
            FactKind::Device => DB::table('devices AS d')->leftJoin('sites AS s', 's.id', '=', 'd.site_id'),
            // One line an act: the history has one row an object.
            FactKind::Change => DB::table('history AS h')->leftJoin('people AS u', 'u.id', '=', 'h.person_id')
                ->whereRaw('h.id IN (SELECT MIN(id) FROM history WHERE at > NOW() - INTERVAL 90 DAY GROUP BY act_id)'),
            FactKind::Person => DB::table('people AS u')->whereNull('u.removed_at')->leftJoin('tenants AS t', 't.id', '=', 'u.tenant_id'),
        };
        if ($reach->isWhole()) {
            return $query;
        }

        return match ($kind) {
            FactKind::Subnet => $query->whereIn('p.id', $reach->prefixes()->select('prefixes.id')),
            FactKind::Address, FactKind::Scope => $query->whereIn('p.id', $reach->prefixes()->select('prefixes.id')),
            FactKind::Zone => $query->whereIn('z.id', $reach->zones()->select('zones.id')),
            FactKind::Vlan => $query->whereIn('v.id', $reach->vlans()->select('vlans.id')),
            // What belongs to no tenant alone is not told to somebody who is bound to one.
            default => $query->whereRaw('1 = 0'),
        };
    }
}
