<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Record;
use App\Models\Zone;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Facades\DB;

/** The rows of a zone's page: records in canonical order by key, and which of them wait to be shipped. */
final class ZonePage
{
    public const ROWS = 150;

    /**
     * @param  string  $after  hexadecimal key of the name to start at
     * @return array{rows: Collection<int, Record>, next: ?string}
     */
    public static function records(Zone $zone, string $filter, string $after, Reach $reach): array
    {
        $query = $reach->isWhole() ? Record::query()->where('zone_id', $zone->id) : $reach->records()->where('zone_id', $zone->id);
        $order = 'owner_key';
        foreach (preg_split('/\s+/', trim($filter), -1, PREG_SPLIT_NO_EMPTY) ?: [] as $word) {
            // A search by the start of a name follows that index, so that it stops after a page.
            $order = self::word($query, $zone, $word) ? 'owner' : $order;
        }
        $from = ctype_xdigit($after) && strlen($after) % 2 === 0 ? hex2bin($after) : '';
        $query->when($from !== '', fn ($q) => $q->where($order, '>=', $from))->orderBy($order);
        $rows = ($order === 'owner' ? $query->forceIndex('records_owner') : $query->orderBy('type')->orderBy('data_hash'))->limit(self::ROWS + 1)->get();
        $next = null;
        if ($rows->count() > self::ROWS) {
            // A page ends between names, unless one name fills it alone.
            $key = $rows->pop()?->getAttribute($order);
            $kept = $rows->filter(fn (Record $r): bool => $r->getAttribute($order) !== $key);
            $next = $kept->isEmpty() ? null : bin2hex($key);
            $rows = $kept->isEmpty() ? $rows : $kept->values();
        }

        return ['rows' => $rows, 'next' => $next];
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
    private static function renewed(\Illuminate\Database\Eloquent\Builder $query, Zone $zone, string $value): void
    {
        $age = \HarborPost\Core\Dns\Ttl::tryParse(ltrim($value, '<>'));
        match (true) {
            $value === 'no' => $query->whereNull('renewed_at'),
            $value === 'due' => $query->where('renewed_at', '<', now()->subSeconds($zone->lapse_after ?? PHP_INT_MAX >> 24)),
            $age !== null && in_array($value[0], ['<', '>'], true) => $query->where('renewed_at', $value[0] === '>' ? '<' : '>', now()->subSeconds($age->seconds)),
            default => $query->whereNotNull('renewed_at'),
        };
    }

    /** @return list<array{act: string, title: string, who: string, at: string, count: int}> acts on records of the zone that can be undone, the latest first */
    public static function lately(Zone $zone, ?string $person): array
    {
        $acts = [];
        $last = (int) DB::table('history')->max('id');
        $names = \App\Models\Person::query()->pluck('name', 'id');
        foreach (DB::table('history')->where('id', '>', $last - 4000)->where('object_type', Record::noun())->when($person, fn ($q) => $q->where('person_id', $person))->orderByDesc('id')->limit(1500)->get() as $row) {
            $json = (array) json_decode((string) ($row->after ?? $row->before), true);
            $there = ($json['zone_id'] ?? null) === $zone->id || isset($acts[$row->act_id]) || ! isset($json['zone_id']) && Record::query()->whereKey($row->object_id)->where('zone_id', $zone->id)->exists();
            if (! $there || ! isset($acts[$row->act_id]) && count($acts) >= 6) {
                continue;
            }
            $acts[$row->act_id] = ['act' => $row->act_id, 'title' => $acts[$row->act_id]['title'] ?? ($row->before === null ? 'added ' : ($row->after === null ? 'removed ' : 'changed ')).$row->title, 'who' => (string) ($names[$row->person_id] ?? 'the application'), 'at' => (string) $row->at, 'count' => ($acts[$row->act_id]['count'] ?? 0) + 1];
        }

        return array_values($acts);
    }

    /**
     * @param  \Illuminate\Database\Eloquent\Builder<Record>  $query
     * @return bool is it a search by the start of the owner's text?
     */
    private static function word(\Illuminate\Database\Eloquent\Builder $query, Zone $zone, string $word): bool
    {
        [$key, $value] = [...explode(':', $word, 2), null];
        if ($value !== null && $key === 'type') {
            $query->where('type', RecordType::tryParse($value)->number ?? -1);

            return false;
        }
        if (preg_match('/\Attl([<>=])(.+)\z/', $word, $m) === 1) {
            $query->where('ttl', $m[1], \HarborPost\Core\Dns\Ttl::tryParse($m[2])->seconds ?? -1);

            return false;
        }
        if ($value !== null && $key === 'data') {
            $query->where('data', 'like', addcslashes($value, '%_\\').'%');

            return false;
        }
        if ($value !== null && $key === 'renewed') {
            self::renewed($query, $zone, $value);

            return false;
        }
        if ($value !== null && $key === 'check') {
            $owners = array_column(array_filter(ZoneFindings::of($zone), static fn (array $f): bool => $value === 'any' || $f['code'] === $value || $f['severity'] === $value), 'owner');
            $query->whereIn('owner', array_values(array_unique($owners)));

            return false;
        }
        // A name is looked for by its start, which the index serves; an absolute one also finds what is below it.
        $name = Name::tryParse(rtrim(strtolower($word), '.').'.');
        if ($name !== null && $name->isIn($zone->origin())) {
            $query->where('owner_key', '>=', $name->sortKey())->where('owner_key', '<', $name->sortKey()."\xff");

            return false;
        }
        $query->where('owner', 'like', addcslashes(strtolower($word), '%_\\').'%');

        return true;
    }
}
