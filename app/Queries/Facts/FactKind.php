<?php

declare(strict_types=1);

namespace App\Queries\Facts;

use App\Queries\Reach;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** The kinds of objects that reports list and rules judge, with what is known of each; a list starts at what the person may see. */
enum FactKind: string
{
    case Subnet = 'subnet';
    case Address = 'address';
    case Zone = 'zone';
    case Scope = 'scope';
    case Vlan = 'vlan';
    case Server = 'server';
    case Device = 'device';
    case Change = 'change';
    case Person = 'person';

    public function plural(): string
    {
        return match ($this) {
            self::Address => 'addresses',
            self::Person => 'people and what they may do',
            self::Vlan => 'VLANs',
            default => $this->value.'s',
        };
    }

    public function singular(): string
    {
        return $this === self::Vlan ? 'VLAN' : $this->value;
    }

    /** Does it stand somewhere, so that it can be narrowed to a site? */
    public function hasSite(): bool
    {
        return in_array($this, [self::Subnet, self::Address, self::Scope, self::Server, self::Device], true);
    }

    /** May rules judge it? What was done and who people are is reported, and not judged. */
    public function isJudged(): bool
    {
        return $this !== self::Change && $this !== self::Person;
    }

    public function link(string $id): ?string
    {
        return match ($this) {
            self::Subnet => "/plan/prefix/$id",
            self::Zone => "/name/zone/$id",
            self::Scope => "/lease/scope/$id",
            self::Vlan => "/directory/vlan/$id",
            self::Server => "/ship/server/$id",
            self::Change => "/watch?act=$id",
            default => null,
        };
    }

    /** @return non-empty-array<string, Fact> the first one names the object */
    public function facts(): array
    {
        return Catalogue::of($this);
    }

    /** The fact that names an object, by which lists stand unless something else is asked for. */
    public function title(): string
    {
        return array_key_first($this->facts());
    }

    /**
     * @param  list<string>|null  $sites  ids; null: everywhere
     * @param  list<Condition>  $conditions
     */
    public function query(Reach $reach, ?array $sites, array $conditions): Builder
    {
        $query = $this->base($reach);
        if ($sites !== null && $this->hasSite()) {
            $query->whereIn('s.id', $sites);
        }
        foreach ($conditions as $condition) {
            $condition->test->narrow($query, $this->facts()[$condition->fact], $condition->value);
        }

        return $query;
    }

    /** @return literal-string the column that holds the id of the object */
    public function id(): string
    {
        return match ($this) {
            self::Subnet => 'p.id',
            self::Address => 'a.id',
            self::Zone => 'z.id',
            self::Scope => 'c.id',
            self::Vlan => 'v.id',
            self::Server => 'r.id',
            self::Device => 'd.id',
            self::Change => 'h.act_id',
            self::Person => 'u.id',
        };
    }

    private function base(Reach $reach): Builder
    {
        $query = match ($this) {
            self::Subnet => DB::table('prefixes AS p')->where('p.kind', 'subnet')->leftJoin('sites AS s', 's.id', '=', 'p.site_id')
                ->leftJoin('vlans AS v', 'v.id', '=', 'p.vlan_id')->leftJoin('scopes AS c', 'c.prefix_id', '=', 'p.id')
                ->leftJoin('tenants AS t', 't.id', '=', 'p.effective_tenant_id'),
            self::Address => DB::table('addresses AS a')->join('prefixes AS p', 'p.id', '=', 'a.prefix_id')
                ->leftJoin('sites AS s', 's.id', '=', 'p.site_id')->leftJoin('tenants AS t', 't.id', '=', 'p.effective_tenant_id')
                ->leftJoin('devices AS d', 'd.id', '=', 'a.device_id'),
            self::Zone => DB::table('zones AS z')->join('views AS w', 'w.id', '=', 'z.view_id')
                ->leftJoin('signing_policies AS g', 'g.id', '=', 'z.policy_id')->leftJoin('tenants AS t', 't.id', '=', 'z.tenant_id'),
            self::Scope => DB::table('scopes AS c')->join('prefixes AS p', 'p.id', '=', 'c.prefix_id')
                ->leftJoin('sites AS s', 's.id', '=', 'p.site_id')->leftJoin('tenants AS t', 't.id', '=', 'p.effective_tenant_id'),
            self::Vlan => DB::table('vlans AS v')->join('layer2_domains AS l', 'l.id', '=', 'v.domain_id'),
            self::Server => DB::table('servers AS r')->leftJoin('sites AS s', 's.id', '=', 'r.site_id'),
            self::Device => DB::table('devices AS d')->leftJoin('sites AS s', 's.id', '=', 'd.site_id'),
            // One line an act: the history has one row an object.
            self::Change => DB::table('history AS h')->leftJoin('people AS u', 'u.id', '=', 'h.person_id')
                ->whereRaw('h.id IN (SELECT MIN(id) FROM history WHERE at > NOW() - INTERVAL 90 DAY GROUP BY act_id)'),
            self::Person => DB::table('people AS u')->leftJoin('tenants AS t', 't.id', '=', 'u.tenant_id'),
        };
        if ($reach->isWhole()) {
            return $query;
        }

        return match ($this) {
            self::Subnet => $query->whereIn('p.id', $reach->prefixes()->select('prefixes.id')),
            self::Address, self::Scope => $query->whereIn('p.id', $reach->prefixes()->select('prefixes.id')),
            self::Zone => $query->whereIn('z.id', $reach->zones()->select('zones.id')),
            self::Vlan => $query->whereIn('v.id', $reach->vlans()->select('vlans.id')),
            // What belongs to no tenant alone is not told to somebody who is bound to one.
            default => $query->whereRaw('1 = 0'),
        };
    }
}
