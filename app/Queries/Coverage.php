<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Pair;
use App\Models\Scope;
use App\Models\ScopeRange;
use App\Models\ScopeServer;
use App\Models\Stage;
use HarborPost\Core\Exchange\Outage;
use HarborPost\Core\Exchange\Shares;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

/** How each scope is served, and what is left of it when one of its servers is lost. */
final class Coverage
{
    public const SORTS = ['name' => ['scopes.name'], 'subnet' => ['prefixes.family', 'prefixes.first', 'prefixes.length']];

    public const ROWS = 50;

    /** Days from which the arrival of new clients is told. */
    public const DAYS = 3;

    private const HOW = ['alone', 'pair', 'shares', 'undivided', 'nobody', 'reservations'];

    /** What a filter understands, with what it means. */
    public const WORDS = [
        'is:alone' => 'on one server', 'is:pair' => 'on two that tell each other', 'is:shares' => 'divided between servers',
        'is:undivided' => 'two may lease one address',
        'is:nobody' => 'on no server', 'is:reservations' => 'without a range', 'site:' => 'start of a site\'s name',
        'server:' => 'start of a server\'s name',
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
            $this->query()->select('scopes.*')->with(['prefix.site', 'ranges', 'exclusions', 'delegations', 'placements.server',
                'optionValues',
                'pair.first',
                'pair.second']),
            self::SORTS,
            $sort,
            $page,
            'scopes.id',
            self::ROWS,
        );
    }

    /** @return array<string, int> how → live scopes that are served so */
    public function counts(): array
    {
        $counts = [];
        foreach (self::HOW as $how) {
            $counts[$how] = self::how($this->reach->scopes()->where('scopes.stage', Stage::Live), $how)->count();
        }

        return $counts;
    }

    /**
     * @param  iterable<Scope>  $scopes
     * @return array<string, array{how: string, size: int, lost: list<array{server: string, left: int, free: int, hours: ?float}>}>
     */
    public static function of(iterable $scopes): array
    {
        $ids = [];
        foreach ($scopes as $scope) {
            $ids[] = $scope->id;
        }
        $now = Carbon::now();
        $ending = $arrivals = [];
        foreach (
            InUse::activeLeases()->whereIn('scope_id', $ids)->where('length', 0)->groupBy('scope_id', 'server_id', 'hour')
                ->selectRaw('scope_id, server_id, TIMESTAMPDIFF(HOUR, ?, ends_at) as hour, COUNT(*) as n', [$now])->toBase()->get() as $row
        ) {
            $ending[$row->scope_id][$row->server_id][max(0, (int) $row->hour)] = (int) $row->n;
        }
        foreach (
            DB::table('leases')->whereIn('scope_id', $ids)->where('length', 0)->where('starts_at', '>', $now->copy()->subDays(self::DAYS))
                ->groupBy('scope_id')
                ->selectRaw('scope_id, COUNT(*) as n')->get() as $row
        ) {
            $arrivals[$row->scope_id] = (int) $row->n / (24 * self::DAYS);
        }
        $found = [];
        foreach ($scopes as $scope) {
            $found[$scope->id] = self::one($scope, $ending[$scope->id] ?? [], $arrivals[$scope->id] ?? 0.0);
        }

        return $found;
    }

    /**
     * Options that the servers of a scope send its clients differently: which one answers decides what a client is told.
     *
     * @param  iterable<Scope>  $scopes  with prefix, placements.server and optionValues
     * @return array<string, list<string>> scope → code and name of each
     */
    public static function differing(iterable $scopes, OptionLayers $layers): array
    {
        $found = [];
        foreach ($scopes as $scope) {
            $sent = [];
            foreach ($scope->placements->count() > 1 ? $scope->placements : [] as $placement) {
                $sent[] = $layers->of($scope, $placement->server)->payloads();
            }
            $codes = [];
            foreach ($sent as $i => $payloads) {
                foreach (array_keys($payloads + $sent[0]) as $code) {
                    if ($i > 0 && ($payloads[$code] ?? null) !== ($sent[0][$code] ?? null)) {
                        $codes[$code] = $code.' '.OwnOptions::now()->definition($code, $scope->family())->name;
                    }
                }
            }
            ksort($codes);
            $codes === [] ?: $found[$scope->id] = array_values($codes);
        }

        return $found;
    }

    /**
     * @param  array<string, array<int, int>>  $ending  server → hour → leases that end in it
     * @return array{how: string, size: int, lost: list<array{server: string, left: int, free: int, hours: ?float}>}
     */
    private static function one(Scope $scope, array $ending, float $arrivals): array
    {
        $size = self::size($scope, null);
        if ($scope->pair !== null && $scope->ranges->isNotEmpty()) {
            return ['how' => 'pair', 'size' => $size, 'lost' => self::ofPair($scope, $scope->pair, $size, $ending, $arrivals)];
        }
        $lost = [];
        foreach ($scope->ranges->isEmpty() ? [] : $scope->placements->sortBy('server.name') as $placement) {
            $left = $taken = 0;
            foreach ($scope->placements as $other) {
                if ($other->server_id !== $placement->server_id) {
                    $left += self::size($scope, $other);
                    $taken += array_sum($ending[$other->server_id] ?? []);
                }
            }
            $free = max(0, $left - $taken);
            $lost[] = [
                'server' => $placement->server->name, 'left' => $left, 'free' => $free,
                'hours' => Outage::hours($free, $arrivals, $ending[$placement->server_id] ?? []),
            ];
        }

        return ['how' => self::word($scope), 'size' => $size, 'lost' => $lost];
    }

    /**
     * The other one renews all leases, so only new clients need addresses: of its own part, until it takes over.
     *
     * @param  array<string, array<int, int>>  $ending
     * @return list<array{server: string, left: int, free: int, hours: ?float}>
     */
    private static function ofPair(Scope $scope, Pair $pair, int $size, array $ending, float $arrivals): array
    {
        $taken = array_sum(array_map(array_sum(...), $ending));
        $lost = [];
        foreach ($pair->servers() as $side => $server) {
            $part = (256 - $pair->terms()->addresses) / 256;
            $part = $side === 'first' ? $part : 1 - $part;
            $free = (int) floor(max(0, $size - $taken) * $part);
            $lost[] = [
                'server' => $server->name, 'left' => (int) round($size * $part), 'free' => $free,
                'hours' => Outage::hours($free, $arrivals, []),
            ];
        }

        return $lost;
    }

    private static function word(Scope $scope): string
    {
        $undivided = $scope->ranges->contains(static fn (ScopeRange $r): bool => $r->server_id === null);

        return match (true) {
            $scope->placements->isEmpty() => 'nobody',
            $scope->ranges->isEmpty() => 'reservations',
            $scope->pair_id !== null => 'pair',
            $scope->placements->count() === 1 => 'alone',
            $undivided => 'undivided',
            default => 'shares',
        };
    }

    /** Addresses that a server may lease, without those that are kept out; of all servers where none is named. */
    private static function size(Scope $scope, ?ScopeServer $of): int
    {
        $ranges = [];
        foreach ($scope->ranges as $range) {
            if ($of === null || $range->server_id === null || $range->server_id === $of->server_id) {
                $ranges[] = $range->range();
            }
        }

        return Shares::size($ranges, array_values($scope->exclusions->map(static fn ($x) => $x->range())->all()));
    }

    /** @return Builder<Scope> */
    public function query(): Builder
    {
        $query = $this->reach->scopes()->join('prefixes', 'prefixes.id', '=', 'scopes.prefix_id')->where('scopes.stage', Stage::Live);
        $words = new FilterWords($this->filter);
        foreach ($words->words as [$key, $value, $word]) {
            $fits = match ($key) {
                null => $query->where('scopes.name', 'like', FilterWords::start($value)),
                'is' => in_array($value, self::HOW, true) ? self::how($query, $value) : null,
                'site' => $query->whereHas('prefix.site', fn ($q) => $q->where('name', 'like', FilterWords::start($value))),
                'server' => $query->whereHas('placements.server', fn ($q) => $q->where('name', 'like', FilterWords::start($value))),
                default => null,
            };
            if ($fits === null) {
                $words->misread($word, 'there are is:'.implode(', is:', self::HOW).', site:, server:, and names of scopes');
                $query->whereRaw('1 = 0');
            }
        }
        $this->misread = $words->misread;

        return $query;
    }

    /**
     * @param  Builder<Scope>  $query
     * @return Builder<Scope>
     */
    private static function how(Builder $query, string $how): Builder
    {
        return match ($how) {
            'nobody' => $query->doesntHave('placements'),
            'reservations' => $query->has('placements')->doesntHave('ranges'),
            'alone' => $query->has('ranges')->has('placements', '=', 1),
            'pair' => $query->has('ranges')->whereNotNull('scopes.pair_id'),
            'undivided' => $query->whereNull('scopes.pair_id')->has('placements', '>', 1)
                ->whereHas('ranges', fn ($q) => $q->whereNull('server_id')),
            default => $query->whereNull('scopes.pair_id')->has('ranges')->has('placements', '>', 1)
                ->whereDoesntHave('ranges', fn ($q) => $q->whereNull('server_id')),
        };
    }
}
