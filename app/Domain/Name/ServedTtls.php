<?php

declare(strict_types=1);

namespace App\Domain\Name;

use App\Models\Record;
use App\Models\Zone;
use HarborPost\Core\Dns\Dnssec\CachedTtls;
use HarborPost\Core\Dns\RecordType;
use Illuminate\Support\Facades\DB;

/** What caches may still count down of a zone: kept beside it by what ships, and no part of what is intended. */
final class ServedTtls
{
    public const ZONE = 'zone';

    public const KEYS = 'keys';

    public const DS = 'ds';

    public static function of(Zone $zone, string $kind): CachedTtls
    {
        return CachedTtls::of($zone->cached_ttls[$kind] ?? []);
    }

    /** The zone gets a serial, with which it goes to its servers; what leaves with it is of an earlier one. */
    public static function stamped(Zone $zone): void
    {
        $gone = DB::table('record_changes')->where('zone_id', $zone->id)->where('serial', $zone->serial)->where('op', '-')->max('ttl');
        $own = self::of($zone, self::ZONE);
        self::keep($zone, [
            self::ZONE => ($gone === null ? $own : $own->serve((int) $gone))->serve(Signing::longestTtl($zone)),
            self::KEYS => $zone->policy === null ? self::of($zone, self::KEYS) : self::of($zone, self::KEYS)->serve($zone->policy->key_ttl),
        ]);
    }

    /** Every server has the zone as it is. */
    public static function settled(Zone $zone, int $now): void
    {
        $lag = $zone->policy->propagation ?? 0;
        self::keep($zone, array_map(
            static fn (CachedTtls $ttls): CachedTtls => $ttls->trim($now, $lag)->settle($now),
            [self::ZONE => self::of($zone, self::ZONE), self::KEYS => self::of($zone, self::KEYS)],
        ));
    }

    /** The parent is given a DS: ours with the TTL that it has there, another's with what the policy says of it. */
    public static function given(Zone $zone): void
    {
        $parent = Signing::parentOf($zone);
        $there = $parent === null ? null : Record::query()->where('zone_id', $parent->id)->where('owner', $zone->name)
            ->where('type', RecordType::DS)->max('ttl');
        $ttl = max((int) $there, $zone->policy->ds_ttl ?? 0);
        self::keep($zone, [self::DS => self::of($zone, self::DS)->serve($ttl)]);
    }

    /** Every server of the parent has the DS that was given last. */
    public static function seen(Zone $zone, int $now): void
    {
        self::keep($zone, [self::DS => self::of($zone, self::DS)->trim($now, $zone->policy->parent_propagation ?? 0)->settle($now)]);
    }

    /** The parent names no key, and no cache holds a DS either. */
    public static function unnamed(Zone $zone): void
    {
        self::keep($zone, [self::DS => CachedTtls::of([])]);
    }

    /** @param  array<string, CachedTtls>  $kinds */
    private static function keep(Zone $zone, array $kinds): void
    {
        $all = [...$zone->cached_ttls ?? [], ...array_map(static fn (CachedTtls $ttls): array => $ttls->rows(), $kinds)];
        if ($all === $zone->cached_ttls) {
            return;
        }
        // A machine's knowledge, not a decision: no entry in the history, and no new version of the zone.
        $json = json_encode($all, JSON_THROW_ON_ERROR);
        // Without the zone in hand nothing is written over: what is not noted as settled now is noted with the next shipment.
        $was = $zone->getRawOriginal('cached_ttls');
        $kept = Zone::query()->whereKey($zone->id)->whereRaw('cached_ttls <=> ?', [$was])->toBase()->update(['cached_ttls' => $json]);
        $kept === 0 ?: $zone->setRawAttributes([...$zone->getAttributes(), 'cached_ttls' => $json])->syncOriginalAttribute('cached_ttls');
    }
}
