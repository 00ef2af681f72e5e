<?php

declare(strict_types=1);

namespace App\Links\Names;

use App\Models\Record;
use App\Models\Zone;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Serial;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** A zone as it is meant, as lines "owner ttl type data": what servers are brought to and what they are compared with. */
final class ZoneLines
{
    /** Rows that are read at once. */
    private const PART = 5000;

    /** Lines of the intended zone, in canonical order, the SOA not among them. */
    public static function of(Zone $zone): \Generator
    {
        // By key and not by place, so that the last part of a million costs what the first does.
        $last = null;
        do {
            $rows = Record::query()->where('zone_id', $zone->id)->orderBy('owner_key')->orderBy('type')->orderBy('data_hash')
                ->when($last !== null, static fn ($q) => $q->where('owner_key', '>=', $last?->owner_key)->where(
                    static fn ($q) => $q->where('owner_key', '>', $last?->owner_key)->orWhere('type', '>', $last?->type)
                        ->orWhere(static fn ($q) => $q->where('type', $last?->type)->where('data_hash', '>', $last?->data_hash)),
                ))
                ->limit(self::PART)->toBase()->get(['owner', 'owner_key', 'ttl', 'type', 'data', 'data_hash']);
            foreach ($rows as $row) {
                yield self::line($row->owner, $row->ttl ?? $zone->default_ttl, $row->type, $row->data);
            }
            $last = $rows->last();
        } while ($rows->count() === self::PART);
        foreach (DB::table('signed_records')->where('zone_id', $zone->id)->orderBy('id')->lazy(5000) as $row) {
            yield self::line($row->owner, $row->ttl, $row->type, $row->data);
        }
    }

    public static function soa(Zone $zone, Serial $serial): string
    {
        return self::line($zone->name, $zone->default_ttl, RecordType::SOA, $zone->soa($serial)->text());
    }

    public static function line(string $owner, int $ttl, int $type, string $data): string
    {
        return $owner.' '.$ttl.' '.RecordType::of($type).' '.$data;
    }

    /** Lines of the zone as it was at a serial of ours: what came since is left out, what went since is there. */
    public static function at(Zone $zone, Serial $serial): \Generator
    {
        [$gone, $come] = self::net($zone, $serial);
        $come = array_fill_keys($come, true);
        foreach (self::of($zone) as $line) {
            if (! isset($come[$line])) {
                yield $line;
            }
        }
        yield from $gone;
    }

    /**
     * The net of the journal from one serial to another.
     *
     * @return array{list<string>, list<string>} removed and added lines
     */
    public static function between(Zone $zone, Serial $from, Serial $to): array
    {
        return self::netOf($zone, static fn (Builder $q) => $q->where('serial', '>', $from->value)->where('serial', '<=', $to->value));
    }

    /**
     * The net of the journal since a serial, together with what waits.
     *
     * @return array{list<string>, list<string>} removed and added lines
     */
    public static function net(Zone $zone, Serial $since): array
    {
        return self::netOf($zone, static fn (Builder $q) => $q->whereNull('serial')->orWhere('serial', '>', $since->value));
    }

    /**
     * The same without what waits: what the serial of the zone stands for.
     *
     * @return array{list<string>, list<string>}
     */
    public static function stamped(Zone $zone, Serial $since): array
    {
        return self::netOf($zone, static fn (Builder $q) => $q->where('serial', '>', $since->value));
    }

    /**
     * @param  \Closure(Builder): mixed  $which  changes
     * @return array{list<string>, list<string>}
     */
    private static function netOf(Zone $zone, \Closure $which): array
    {
        $net = [];
        foreach (DB::table('record_changes')->where('zone_id', $zone->id)->where($which)->orderBy('id')->get() as $change) {
            if ($change->op === '~') {
                continue;
            }
            $line = self::line($change->owner, $change->ttl ?? $zone->default_ttl, $change->type, $change->data);
            $net[$line] = ($net[$line] ?? 0) + ($change->op === '+' ? 1 : -1);
        }
        $removed = array_keys(array_filter($net, fn (int $n): bool => $n < 0));
        $added = array_keys(array_filter($net, fn (int $n): bool => $n > 0));

        return [$removed, $added];
    }

    /**
     * What waits to be shipped, in the same words.
     *
     * @return array{'+': array<string, true>, '-': array<string, true>} lines that are to come and to go
     */
    public static function waiting(Zone $zone): array
    {
        $waits = ['+' => [], '-' => []];
        $changes = DB::table('record_changes')->where('zone_id', $zone->id)->whereNull('serial')->where('op', '!=', '~')->orderBy('id');
        foreach ($changes->get(['op', 'owner', 'ttl', 'type', 'data']) as $change) {
            $op = $change->op === '+' ? '+' : '-';
            $ttl = (int) ($change->ttl ?? $zone->default_ttl);
            $waits[$op][self::line((string) $change->owner, $ttl, (int) $change->type, (string) $change->data)] = true;
        }

        return $waits;
    }
}
