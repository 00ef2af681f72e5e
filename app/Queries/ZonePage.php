<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Record;
use App\Models\Zone;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Net\Address;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Facades\DB;

/** The rows of a zone's page: records in canonical order by key, and which of them wait to be shipped. */
final class ZonePage
{
    public const ROWS = 150;

    /** Records that one act may change by a filter. */
    public const AT_ONCE = 2000;

    private const SORTS = [
        'name' => ['records.owner_key', 'records.type', 'records.data_hash'], 'type' => ['records.type', 'records.owner_key'],
        'ttl' => ['records.ttl', 'records.owner_key'], 'data' => ['~records.data', 'records.owner_key'],
    ];

    /** As far as matches are counted. */
    private const COUNTED = 10_000;

    /**
     * Page by page in the order asked for, as far as matches are counted; of more of them from a name on, in the order of names alone.
     *
     * @param  int  $most  matches that are reached page by page
     * @param  string  $after  hexadecimal key of the name to start at, and "-n" behind it where n of its records were shown already
     * @return array{rows: Collection<int, Record>, next: ?string, misread: list<string>, count: int, more: bool, list: ?Listing<Record>}
     */
    public static function records(
        Zone $zone,
        string $filter,
        string $after,
        Reach $reach,
        string $sort = '',
        int $page = 1,
        int $most = self::COUNTED,
    ): array {
        [$query, $order, $misread] = self::filtered($zone, $filter, $reach);
        $count = self::count(clone $query);
        if ($count <= $most) {
            $list = Listing::of($query, self::SORTS, $sort, $page, 'records.id', self::ROWS);

            return ['rows' => $list->rows, 'next' => null, 'misread' => $misread, 'count' => $count, 'more' => false, 'list' => $list];
        }
        [$hex, $shown] = explode('-', $after, 2) + ['', '0'];
        $from = ctype_xdigit($hex) && strlen($hex) % 2 === 0 ? hex2bin($hex) : '';
        $skip = $from === '' || ! ctype_digit($shown) ? 0 : min(1_000_000, (int) $shown);
        $query->when($from !== '', fn ($q) => $q->where($order, '>=', $from))->orderBy($order)->offset($skip)->limit(self::ROWS + 1);
        if ($order === 'owner') {
            $query->orderBy('id')->getQuery()->forceIndex('records_owner');
        } else {
            $query->orderBy('type')->orderBy('data_hash');
        }
        $rows = $query->get();
        $next = null;
        if ($rows->count() > self::ROWS) {
            // A page ends between names, unless one name fills it alone: then the next one goes on inside it.
            $key = $rows->pop()?->getAttribute($order);
            $kept = $rows->filter(fn (Record $r): bool => $r->getAttribute($order) !== $key)->values();
            $alone = $kept->isEmpty();
            $next = bin2hex($key).($alone ? '-'.($key === $from ? $skip + self::ROWS : self::ROWS) : '');
            $rows = $alone ? $rows : $kept;
        }

        return [
            'rows' => $rows, 'next' => $next, 'misread' => $misread, 'count' => min($count, self::COUNTED),
            'more' => $count > self::COUNTED, 'list' => null,
        ];
    }

    /**
     * All records that a filter finds, for an act on them at once.
     *
     * @return list<string> ids, one more than {@see AT_ONCE} at most; none where the filter is empty or not understood
     */
    public static function matching(Zone $zone, string $filter, Reach $reach): array
    {
        [$query, , $misread] = self::filtered($zone, $filter, $reach);

        return trim($filter) === ''
            || $misread !== [] ? [] : array_values(array_map(strval(...), $query->limit(self::AT_ONCE + 1)->pluck('id')->all()));
    }

    /** @param  \Illuminate\Database\Eloquent\Builder<Record>  $query */
    private static function count(\Illuminate\Database\Eloquent\Builder $query): int
    {
        return DB::query()->fromSub($query->select('id')->limit(self::COUNTED + 1), 'found')->count();
    }

    /**
     * @return array{\Illuminate\Database\Eloquent\Builder<Record>, 'owner'|'owner_key', list<string>} query, order and what was not
     *     understood
     */
    private static function filtered(Zone $zone, string $filter, Reach $reach): array
    {
        $query = $reach->isWhole() ? Record::query()->where('zone_id', $zone->id) : $reach->records()->where('zone_id', $zone->id);
        $order = 'owner_key';
        $words = new FilterWords($filter);
        foreach ($words->words as [$key, $value, $word]) {
            // A search by the start of a name follows that index, so that it stops after a page.
            $order = self::word($query, $zone, $words, $key, $value, $word) ? 'owner' : $order;
        }
        $words->misread === [] ?: $query->whereRaw('FALSE');

        return [$query, $order, $words->misread];
    }

    /** @return array<string, bool> "owner type" of record sets that changed since the zone was last shipped */
    public static function waiting(Zone $zone): array
    {
        return DB::table('record_changes')->where('zone_id', $zone->id)->whereNull('serial')->limit(2000)->get(['owner', 'type'])
            ->mapWithKeys(fn (object $c): array => ["$c->owner $c->type" => true])->all();
    }

    public static function countWaiting(Zone $zone): int
    {
        return DB::table('record_changes')->where('zone_id', $zone->id)->whereNull('serial')->count();
    }

    /**
     * `renewed:yes`, `renewed:no`, `renewed:due`, or by age: `renewed:>3d`.
     *
     * @param  \Illuminate\Database\Eloquent\Builder<Record>  $query
     */
    private static function renewed(
        \Illuminate\Database\Eloquent\Builder $query,
        Zone $zone,
        FilterWords $words,
        string $value,
        string $word,
    ): void {
        $age = \HarborPost\Core\Dns\Ttl::tryParse(ltrim($value, '<>'));
        match (true) {
            $value === 'no' => $query->whereNull('renewed_at'),
            $value === 'yes' => $query->whereNotNull('renewed_at'),
            $value === 'due' => $query->where('renewed_at', '<', now()->subSeconds($zone->lapse_after ?? PHP_INT_MAX >> 24)),
            $age !== null && in_array($value[0], ['<', '>'], true) => $query->where(
                'renewed_at',
                $value[0] === '>' ? '<' : '>',
                now()->subSeconds($age->seconds),
            ),
            default => $words->misread($word, 'renewed:yes, renewed:no, renewed:due, or an age as in renewed:>3d'),
        };
    }

    /**
     * @return list<array{act: string, title: string, who: string, at: string, count: int}> acts on records of the zone that can be undone,
     *     the latest first
     */
    public static function lately(Zone $zone, ?string $person): array
    {
        $acts = [];
        $last = (int) DB::table('history')->max('id');
        $names = \App\Models\Person::query()->pluck('name', 'id');
        foreach (
            DB::table('history')->where('id', '>', $last - 4000)->where('object_type', Record::noun())
                ->when($person, fn ($q) => $q->where('person_id', $person))->orderByDesc('id')->limit(1500)
                ->get() as $row
        ) {
            $json = (array) json_decode((string) ($row->after ?? $row->before), true);
            $there = ($json['zone_id'] ?? null) === $zone->id
                || isset($acts[$row->act_id])
                || ! isset($json['zone_id']) && Record::query()->whereKey($row->object_id)->where('zone_id', $zone->id)->exists();
            if (! $there || ! isset($acts[$row->act_id]) && count($acts) >= 6) {
                continue;
            }
            $acts[$row->act_id] = [
                'act' => $row->act_id,
                'title' => $acts[$row->act_id]['title']
                    ?? ($row->before === null ? 'added ' : ($row->after === null ? 'removed ' : 'changed ')).$row->title,
                'who' => (string) ($names[$row->person_id] ?? 'the application'),
                'at' => (string) $row->at,
                'count' => ($acts[$row->act_id]['count'] ?? 0) + 1,
            ];
        }

        return array_values($acts);
    }

    /**
     * @param  \Illuminate\Database\Eloquent\Builder<Record>  $query
     * @return bool is it a search by the start of the owner's text?
     */
    private static function word(
        \Illuminate\Database\Eloquent\Builder $query,
        Zone $zone,
        FilterWords $words,
        ?string $key,
        string $value,
        string $word,
    ): bool {
        $ttl = preg_match('/\Attl([<>=])(.+)\z/', $word, $m) === 1 ? \HarborPost\Core\Dns\Ttl::tryParse($m[2]) : null;
        $type = $key === 'type' ? RecordType::tryParse($value) : null;
        $name = $key === null ? Name::tryParse(rtrim(strtolower($value), '.').'.') : null;
        $below = $name !== null && $name->isIn($zone->origin());
        $address = $key === null || ! in_array($key, ['type', 'data', 'renewed', 'check'], true) ? Address::tryParse($word) : null;
        match (true) {
            $ttl !== null => $query->whereRaw("COALESCE(ttl, ?) $m[1] ?", [$zone->default_ttl, $ttl->seconds]),
            $m !== [] => $words->misread($word, 'a time in seconds or with units, as in ttl>1h'),
            $type !== null => $query->where('type', $type->number),
            $key === 'type' => $words->misread($word, 'a record type, as in type:mx'),
            $address !== null => $query->where('data', (string) $address),
            $key === 'data' => $query->where('data', 'like', FilterWords::start($value)),
            $key === 'renewed' => self::renewed($query, $zone, $words, $value, $word),
            $key === 'check' => self::check($query, $zone, $value),
            $key !== null => $words->misread($word, 'filter words are type:, ttl>, ttl<, data:, renewed: and check:'),
            // A name is looked for by its start, which the index serves; an absolute one also finds what is below it.
            $below => $query->where('owner_key', '>=', $name->sortKey())->where('owner_key', '<', $name->sortKey()."\xff"),
            default => $query->where('owner', 'like', FilterWords::start(strtolower($value))),
        };

        return $key === null && $m === [] && $address === null && ! $below;
    }

    /** @param  \Illuminate\Database\Eloquent\Builder<Record>  $query */
    private static function check(\Illuminate\Database\Eloquent\Builder $query, Zone $zone, string $value): void
    {
        $owners = array_column(
            array_filter(
                ZoneFindings::of($zone),
                static fn (array $f): bool => $value === 'any' || $f['code'] === $value || $f['severity'] === $value,
            ),
            'owner',
        );
        $query->whereIn('owner', array_values(array_unique($owners)));
    }
}
