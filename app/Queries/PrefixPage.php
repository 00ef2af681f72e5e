<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\HeldRun;
use App\Models\Host;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Scope;
use App\Models\Stage;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Planning\Run;
use HarborPost\Core\Planning\RunKind;
use HarborPost\Core\Planning\Runs;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Facades\DB;

/** The rows of a prefix's page. Each list is bounded; the next page starts at an address, not at an offset. */
final class PrefixPage
{
    public const ROWS = 100;

    private const HOST_SORTS = [
        'address' => ['addresses.address'], 'name' => ['~addresses.name', 'addresses.address'],
        'mac' => ['addresses.mac', 'addresses.address'], 'role' => ['addresses.role', 'addresses.address'],
        'device' => ['~devices.name', 'addresses.address'],
    ];

    /** Orders of what is inside that leave the order of addresses, and with it what is open between prefixes. */
    private const CHILD_SORTS = [
        'prefix' => ['prefixes.first', 'prefixes.length'], 'name' => ['~prefixes.name', 'prefixes.first'],
        'site' => ['~sites.name', 'prefixes.first'], 'vlan' => ['vlans.number', 'prefixes.first'],
        'size' => ['prefixes.length', 'prefixes.first'],
    ];

    /** Hits that light up on the ruler at most. */
    private const LIT = 5000;

    /** @var list<string> words of the filter that were not understood, as sentences */
    public array $misread = [];

    public function __construct(private readonly Reach $reach)
    {
    }

    /**
     * Children and open blocks in address order, from an address on.
     *
     * @return array{rows: list<Prefix|Net>, next: ?string}
     */
    public function children(Prefix $parent, ?Net $zoom, string $from, string $filter): array
    {
        $whole = $zoom ?? $parent->prefix();
        $start = Address::tryParse($from) ?? $whole->first;
        $query = $this->reach->prefixes()->with(['site', 'vlan'])->where('family', $parent->family)
            ->whereBetween('first', [$start->bytes, $whole->last()->bytes]);
        // A filter looks at everything inside, at every depth.
        $filter === '' ? $query->where('parent_id', $parent->id) : $this->filter($this->inside($query, $parent), $filter);
        $children = $query->orderBy('first')->orderBy('length')->limit(self::ROWS + 1)->get();
        $next = $children->count() > self::ROWS ? (string) $children->pop()?->first : null;
        $rows = $children->all();
        if ($filter === '') {
            $end = $next === null ? $whole->last()->bytes : $children->last()?->first->bytes;
            $open = DB::table('open_blocks')->where('parent_id', $parent->id)
                ->whereBetween('first', [$start->bytes, $end])->orderBy('first')->limit(self::ROWS)
                ->get(['first', 'length']);
            $rows = self::merged($children->all(), $open->all());
        }
        $this->foldIn($children);

        return ['rows' => array_values($rows), 'next' => $next];
    }

    /** In which order what is inside is asked for. */
    public static function childOrder(string $sort): Order
    {
        return Order::of(self::CHILD_SORTS, $sort);
    }

    /**
     * What is inside, in another order than that of addresses: prefixes alone.
     *
     * @return ?Listing<Prefix> null: the order of addresses was asked for
     */
    public function sorted(Prefix $parent, ?Net $zoom, string $filter, string $sort, int $page): ?Listing
    {
        $order = self::childOrder($sort);
        if ($order->by === 'prefix' && ! $order->down) {
            return null;
        }
        $found = $this->insideOf($parent, $zoom, $filter);
        $query = Prefix::query()->with(['site', 'vlan'])->select('prefixes.*')->whereIn('prefixes.id', $found->select('prefixes.id'))
            ->leftJoin('sites', 'sites.id', '=', 'prefixes.site_id')->leftJoin('vlans', 'vlans.id', '=', 'prefixes.vlan_id');
        $list = Listing::of($query, self::CHILD_SORTS, $sort, $page, 'prefixes.id', self::ROWS);
        $this->foldIn($list->rows);

        return $list;
    }

    /** @return \Illuminate\Database\Eloquent\Builder<Prefix> what stands inside, or what a filter finds there at every depth */
    public function insideOf(Prefix $parent, ?Net $zoom, string $filter): \Illuminate\Database\Eloquent\Builder
    {
        $whole = $zoom ?? $parent->prefix();
        $found = $this->reach->prefixes()->where('family', $parent->family)
            ->whereBetween('first', [$whole->first->bytes, $whole->last()->bytes]);
        $filter === '' ? $found->where('parent_id', $parent->id) : $this->filter($this->inside($found, $parent), $filter);

        return $found;
    }

    /** How many stand inside, or are found there, counted as far as they can be taken at once. */
    public function countInside(Prefix $parent, string $filter): int
    {
        $found = $this->insideOf($parent, null, $filter)->select('prefixes.id')->limit(Matching::AT_ONCE + 1);

        return DB::query()->fromSub($found, 'found')->count();
    }

    /**
     * Two lists in address order become one; compared as bytes, without making a value of every row.
     *
     * @param  array<int, Prefix>  $children
     * @param  array<int, \stdClass>  $open
     * @return list<Prefix|Net>
     */
    private static function merged(array $children, array $open): array
    {
        $rows = [];
        $at = 0;
        foreach ($children as $child) {
            $first = $child->getRawOriginal('first');
            while (isset($open[$at]) && strcmp((string) $open[$at]->first, is_string($first) ? $first : '') < 0) {
                $rows[] = Net::of(Address::fromBytes((string) $open[$at]->first), (int) $open[$at++]->length);
            }
            $rows[] = $child;
        }
        for (; isset($open[$at]); $at++) {
            $rows[] = Net::of(Address::fromBytes((string) $open[$at]->first), (int) $open[$at]->length);
        }

        return $rows;
    }

    /**
     * First addresses of what a filter finds inside, for lighting them up on the ruler; null without a filter.
     *
     * @return list<string>|null bytes, in order
     */
    public function found(Prefix $parent, string $filter): ?array
    {
        if ($filter === '') {
            return null;
        }
        $query = $this->inside(
            $this->reach->prefixes()->where('family', $parent->family)
                ->whereBetween('first', [$parent->first->bytes, $parent->prefix()->last()->bytes]),
            $parent,
        );
        $this->filter($query, $filter);

        return array_values(
            $query->orderBy('first')->limit(self::LIT)->toBase()->pluck('first')->map(fn ($b): string => (string) $b)->all(),
        );
    }

    /**
     * @param  \Illuminate\Database\Eloquent\Builder<Prefix>  $query
     * @return \Illuminate\Database\Eloquent\Builder<Prefix>
     */
    private function inside(\Illuminate\Database\Eloquent\Builder $query, Prefix $parent): \Illuminate\Database\Eloquent\Builder
    {
        return $query->where('prefixes.space_id', $parent->space_id)->where('prefixes.length', '>=', $parent->length)
            ->where('prefixes.id', '!=', $parent->id);
    }

    /**
     * Adds what was placed since counters were last folded.
     *
     * @param  Collection<int, Prefix>  $prefixes
     */
    public function foldIn(Collection $prefixes): void
    {
        $pending = DB::table('use_deltas')->whereIn('prefix_id', $prefixes->modelKeys())->groupBy('prefix_id')
            ->selectRaw('prefix_id, SUM(delta) as n')->pluck('n', 'prefix_id');
        foreach ($prefixes as $prefix) {
            $prefix->used = max(0, $prefix->used + (int) ($pending[$prefix->id] ?? 0));
            $prefix->syncOriginal();
        }
    }

    /** @return \Illuminate\Database\Eloquent\Builder<Host> those of a subnet that a filter finds */
    public static function hostsOf(Prefix $subnet, string $filter): \Illuminate\Database\Eloquent\Builder
    {
        $query = Host::query()->where('addresses.prefix_id', $subnet->id);
        if ($filter !== '') {
            $address = Address::tryParse($filter);
            $mac = \HarborPost\Core\Net\MacAddress::tryParse($filter);
            match (true) {
                $address !== null => $query->where('addresses.address', $address->bytes),
                $mac !== null => $query->where('addresses.mac', $mac->bytes),
                default => $query->where('addresses.name', 'like', addcslashes(strtolower($filter), '%_\\').'%'),
            };
        }

        return $query;
    }

    /**
     * Hosts of a subnet, page by page, in the order asked for; from an address on where one is named.
     *
     * @return Listing<Host>
     */
    public function hosts(Prefix $subnet, string $from, string $filter, string $sort, int $page): Listing
    {
        $query = self::hostsOf($subnet, $filter)->with('device')->select('addresses.*');
        $start = Address::tryParse($from);
        $query->when($start, fn ($q) => $q->where('addresses.address', '>=', $start?->bytes));
        if (ltrim($sort, '-') === 'device') {
            $query->leftJoin('devices', 'devices.id', '=', 'addresses.device_id');
        }

        return Listing::of($query, self::HOST_SORTS, $sort, $page, 'addresses.id', self::ROWS);
    }

    /** @return array{list<Run>, ?string} the runs, and what to say when there are too many addresses to draw them */
    public function runs(Prefix $subnet, ?Scope $scope): array
    {
        $hosts = Host::query()->where('prefix_id', $subnet->id)->orderBy('address')->limit(20001)->toBase()
            ->pluck('address')->map(fn ($b): Address => Address::fromBytes((string) $b))->all();
        $marked = [];
        foreach (HeldRun::query()->where('prefix_id', $subnet->id)->get() as $run) {
            $run->holds(now()) && $marked[] = [$run->range(), RunKind::Held, $run->reason];
        }
        foreach ($scope->exclusions ?? [] as $exclusion) {
            $marked[] = [$exclusion->range(), RunKind::Excluded, $exclusion->reason ?: null];
        }
        foreach ($scope->ranges ?? [] as $range) {
            $marked[] = [$range->range(), RunKind::Dynamic, $range->server_id];
        }
        $leased = $scope === null
            ? []
            : InUse::activeLeases()->where('scope_id', $scope->id)->limit(20000)->toBase()->pluck('address')
                ->map(fn ($b): Address => Address::fromBytes((string) $b))->all();
        $truncated = count($hosts) > 20000 ? 'more than 20,000 hosts; the runs show the first 20,000' : null;

        return [Runs::of(
            $subnet->prefix(),
            $subnet->gateway,
            array_values(array_slice($hosts, 0, 20000)),
            $marked,
            array_values($leased),
        ), $truncated];
    }

    /**
     * A list and a ruler show the same filter; what it says it did not understand is kept for the page.
     *
     * @param  \Illuminate\Database\Eloquent\Builder<Prefix>  $query
     */
    private function filter(\Illuminate\Database\Eloquent\Builder $query, string $filter): void
    {
        $words = new FilterWords($filter);
        foreach ($words->words as [$key, $value, $word]) {
            $like = FilterWords::start($value);
            match (true) {
                $key === 'stage' => Stage::tryFrom($value) !== null
                    ? $query->where('stage', $value)
                    : $words->misread($word, 'a stage is '.implode(', ', Stage::values())),
                $key === 'kind' => PrefixKind::tryFrom($value) !== null
                    ? $query->where('kind', $value)
                    : $words->misread($word, 'a kind is '.implode(', ', PrefixKind::values())),
                $key === 'site' => $query->whereHas('site', fn ($s) => $s->where('name', 'like', $like)),
                $key === 'vlan' => ctype_digit($value)
                    ? $query->whereHas('vlan', fn ($v) => $v->where('number', (int) $value))
                    : $query->whereHas('vlan', fn ($v) => $v->where('name', 'like', $like)),
                $key === 'tag' => $query->whereIn(
                    'prefixes.id',
                    DB::table('prefix_tags')->where('tag', mb_strtolower($value))->select('prefix_id'),
                ),
                $key === 'role' => $query->where('role', 'like', $like),
                $key === 'about' => $query->where('description', 'like', $like),
                $key === 'tenant' => $query->whereHas('tenant', fn ($t) => $t->where('name', 'like', $like)),
                $key === 'above' => is_numeric($value)
                    && $value >= 0
                    && $value <= 100 ? self::above($query, (float) $value) : $words->misread($word, 'a number of percent, as in above:80'),
                Address::tryParse($word) !== null => self::around($query, Address::parse($word)),
                Net::tryParse($word) !== null => $query->where('first', Net::parse($word)->first->bytes)
                    ->where('length', Net::parse($word)->length),
                $key !== null => $words->misread(
                    $word,
                    'filter words are site:, stage:, kind:, vlan:, tag:, role:, about:, tenant: and above:',
                ),
                default => $query->where('name', 'like', $like),
            };
        }
        $this->misread = $words->misread;
        $this->misread === [] ?: $query->whereRaw('FALSE');
    }

    /** @param  \Illuminate\Database\Eloquent\Builder<Prefix>  $query */
    private static function around(\Illuminate\Database\Eloquent\Builder $query, Address $address): void
    {
        $query->where(function ($q) use ($address): void {
            for ($length = 0; $length <= 8 * strlen($address->bytes); $length++) {
                $q->orWhere(fn ($w) => $w->where('first', Net::around($address, $length)->first->bytes)->where('length', $length));
            }
        });
    }

    /**
     * Subnets filled as far as the page shows, or further: the gateway counts, and what was placed since the counters were folded.
     *
     * @param  \Illuminate\Database\Eloquent\Builder<Prefix>  $query
     */
    private static function above(\Illuminate\Database\Eloquent\Builder $query, float $percent): void
    {
        $used = 'used + (gateway IS NOT NULL) + COALESCE((SELECT SUM(delta) FROM use_deltas WHERE use_deltas.prefix_id = prefixes.id), 0)';
        $bits = 'IF(family = 4, 32, 128) - length';
        $usable = "POW(2, $bits) - IF($bits <= 1, 0, IF(family = 4, 2, 1))";
        $query->where('kind', PrefixKind::Subnet)->whereRaw("$bits <= 40")
            ->whereRaw("ROUND(LEAST(100, 100 * ($used) / ($usable))) >= ?", [$percent]);
    }
}
