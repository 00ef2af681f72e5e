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
    public static function records(Zone $zone, string $filter, string $after): array
    {
        $query = Record::query()->where('zone_id', $zone->id);
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
