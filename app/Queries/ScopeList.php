<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Prefix;
use App\Models\Scope;
use HarborPost\Core\Net\Address;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;

/** Scopes as the list shows them, and subnets that have none. */
final class ScopeList
{
    public const SORTS = [
        'name' => ['~scopes.name'], 'subnet' => ['prefixes.family', 'prefixes.first', 'prefixes.length'], 'vlan' => ['vlans.number'],
        'time' => ['scopes.lease_time'], 'stage' => ['scopes.stage'],
    ];

    /** What a filter understands, with what it means. */
    public const WORDS = [
        'site:' => 'start of a site\'s name', 'server:' => 'start of a server\'s name', 'pair:' => 'start of a pair\'s name',
        'vlan:' => 'number of a VLAN', 'is:v4' => 'of IPv4', 'is:v6' => 'of IPv6', 'is:live' => 'on its servers',
        'is:planned' => 'not there yet',
    ];

    /** @var list<string> */
    public array $misread = [];

    public function __construct(private readonly Reach $reach, private readonly string $filter)
    {
    }

    /** @return Listing<Scope> */
    public function page(string $sort, int $page): Listing
    {
        return Listing::of(
            $this->query()->select('scopes.*')->with([
                'prefix.site', 'prefix.vlan', 'placements.server', 'ranges', 'exclusions', 'delegations', 'reservations.optionValues',
                'optionValues', 'pair',
            ]),
            self::SORTS,
            $sort,
            $page,
            'scopes.id',
        );
    }

    /** @return Builder<Scope> those that the filter leaves */
    public function query(): Builder
    {
        $query = $this->reach->scopes()->join('prefixes', 'prefixes.id', '=', 'scopes.prefix_id')
            ->leftJoin('vlans', 'vlans.id', '=', 'prefixes.vlan_id');
        $words = new FilterWords($this->filter);
        $name = [];
        foreach ($words->words as [$key, $value, $word]) {
            if ($key === null) {
                $name[] = $value;

                continue;
            }
            $fits = match (true) {
                $key === 'site' => $query->whereHas('prefix.site', fn ($q) => $q->where('name', 'like', FilterWords::start($value))),
                $key === 'server' => $query->whereHas('placements.server',
                    fn ($q) => $q->where('name', 'like', FilterWords::start($value))),
                $key === 'pair' => $query->whereHas('pair', fn ($q) => $q->where('name', 'like', FilterWords::start($value))),
                $key === 'vlan' && ctype_digit($value) => $query->where('vlans.number', (int) $value),
                $key === 'is' && in_array($value, ['live', 'planned'], true) => $query->where('scopes.stage', $value),
                $key === 'is' && in_array($value, ['v4', 'v6'], true) => $query->where('prefixes.family', (int) $value[1]),
                default => null,
            };
            if ($fits === null) {
                $words->misread($word,
                    'there are is:live, is:planned, is:v4, is:v6, site:, server:, pair:, vlan: with a number, and names of scopes');
                $query->whereRaw('1 = 0');
            }
        }
        if ($name !== []) {
            $query->where('scopes.name', 'like', FilterWords::start(implode(' ', $name)));
        }
        $this->misread = $words->misread;

        return $query;
    }

    /** A rule for the ranges of a scope on a subnet that leaves out what has an address there; blank where that leaves too little. */
    public static function ruleFor(Prefix $subnet): string
    {
        if ($subnet->family !== 4) {
            return '';
        }
        $usable = $subnet->prefix()->usable();
        $size = $usable->size()->toInt();
        $last = DB::table('addresses')->where('prefix_id', $subnet->id)
            ->when($subnet->gateway, fn ($q, $gateway) => $q->where('address', '!=', $gateway->bytes))->max('address');
        $fixed = is_string($last) ? Address::fromBytes($last)->minus($usable->first)->toInt() + 1 : 0;
        // The next full ten, so that there is room for a few more.
        $first = max(min(20, intdiv($size, 4)), intdiv($fixed + 9, 10) * 10);

        return $first <= intdiv($size * 3, 4) ? "all but the first $first" : '';
    }

    /**
     * IPv4 subnets that no scope leases.
     *
     * @return Listing<Prefix>
     */
    public static function without(Reach $reach, string $filter, string $sort, int $page): Listing
    {
        return Listing::of(self::withoutScope($reach, $filter)->select('prefixes.*')->with(['site', 'vlan']), [
            'subnet' => ['prefixes.family', 'prefixes.first', 'prefixes.length'], 'name' => ['~prefixes.name'], 'vlan' => ['vlans.number'],
        ], $sort, $page, 'prefixes.id');
    }

    /** @return Builder<Prefix> */
    public static function withoutScope(Reach $reach, string $filter): Builder
    {
        $query = $reach->prefixes()->leftJoin('vlans', 'vlans.id', '=', 'prefixes.vlan_id')
            ->where('prefixes.kind', 'subnet')->where('prefixes.family', 4)->where('prefixes.length', '<=', 30)
            ->whereNotExists(fn ($q) => $q->from('scopes')->whereColumn('scopes.prefix_id', 'prefixes.id'));
        $words = new FilterWords($filter);
        foreach ($words->words as [$key, $value]) {
            match (true) {
                $key === 'site' => $query->whereHas('site', fn ($q) => $q->where('name', 'like', FilterWords::start($value))),
                $key === 'vlan' && ctype_digit($value) => $query->where('vlans.number', (int) $value),
                $key === 'is' && in_array($value, ['live', 'planned'], true) => $query->where('prefixes.stage', $value),
                $key === null => $query->where('prefixes.name', 'like', FilterWords::start($value)),
                default => $query->whereRaw('1 = 0'),
            };
        }

        return $query;
    }
}
