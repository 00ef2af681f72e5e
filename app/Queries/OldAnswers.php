<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Zone;
use App\Models\ZoneServer;
use Carbon\CarbonImmutable;
use Illuminate\Support\Facades\DB;

/**
 * How long caches may go on giving what was true before the last shipment of a zone: for the TTL of what was removed (RFC 2181 §8), and
 * where nothing was there before, for that of a negative answer (RFC 2308 §5).
 */
final class OldAnswers
{
    /** Changes of one shipment that are looked at. */
    private const MOST = 4000;

    /** Nobody is told of TTLs that are longer. */
    private const DAYS = 8;

    /**
     * @return array<string, array{until: CarbonImmutable, left: float, none: bool}> "owner type" → until when, the share that is left, was
     *     nothing there?
     */
    public static function of(Zone $zone): array
    {
        $since = self::since($zone);
        if ($since === null || $since->lessThan(now()->subDays(self::DAYS))) {
            return [];
        }
        $old = [];
        foreach (
            DB::table('record_changes')->where('zone_id', $zone->id)->where('serial', $zone->serial)->where('op', '!=', '~')
                ->orderByDesc('id')->limit(self::MOST)->get(['owner', 'type', 'op', 'ttl']) as $change
        ) {
            $key = "$change->owner $change->type";
            $old[$key] = max($old[$key] ?? -1, $change->op === '-' ? (int) ($change->ttl ?? $zone->default_ttl) : -1);
        }
        $told = [];
        foreach ($old as $key => $ttl) {
            $seconds = $ttl < 0 ? self::negative($zone) : $ttl;
            $until = $since->addSeconds($seconds);
            if ($seconds > 0 && $until->isFuture()) {
                $told[$key] = ['until' => $until, 'left' => (float) now()->diffInSeconds($until) / $seconds, 'none' => $ttl < 0];
            }
        }

        return $told;
    }

    /** Seconds for which "there is no such thing" may be kept. */
    public static function negative(Zone $zone): int
    {
        return min($zone->default_ttl, $zone->negative_ttl);
    }

    /** When the last of its servers took the zone as it is; null while one of them gives an older one, or none has it. */
    public static function since(Zone $zone): ?CarbonImmutable
    {
        $behind = $zone->placements
            ->first(static fn (ZoneServer $p): bool => $p->shipped_serial !== $zone->serial || $p->shipped_at === null);
        $since = $zone->placements->max('shipped_at');

        return $zone->serial === 0 || $behind !== null || ! $since instanceof CarbonImmutable ? null : $since;
    }
}
