<?php

declare(strict_types=1);

namespace App\Domain\Name;

use App\Acts\Engine\Ledger;
use App\Links\Brought;
use App\Links\Names\Resolving;
use App\Models\Record;
use App\Models\Server;
use App\Models\Zone;
use App\Models\ZoneKey;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;

/** The DS of a zone in the zone above, where that is ours. */
final class ParentDs
{
    /**
     * @param  list<ZoneKey>  $keys  that the parent is to name; none takes the DS away
     * @return ?Zone the parent that was written; null where it is somebody else's
     */
    public static function write(Ledger $ledger, Zone $zone, array $keys): ?Zone
    {
        $parent = Signing::parentOf($zone);
        if ($parent === null) {
            return null;
        }
        $meant = array_map(static fn (ZoneKey $k): string => $k->ds()->text(), $keys);
        $there = Record::query()->where('zone_id', $parent->id)->where('owner', $zone->name)->where('type', RecordType::DS)->get();
        foreach ($there as $record) {
            in_array($record->data, $meant, true) ?: Records::remove($record);
        }
        foreach ($keys as $key) {
            if (! $there->contains('data', $key->ds()->text())) {
                Records::add($ledger, $parent, $zone->origin(), $zone->policy?->ds_ttl, $key->ds());
            }
        }

        return $parent;
    }

    /** The newest key that the parent may name. */
    public static function entry(Zone $zone): ?ZoneKey
    {
        return $zone->keys()->get()->filter(static fn (ZoneKey $k): bool => $k->isEntry())->last();
    }

    /** The parent is asked to name a key in place of all others, when no cache can hold the zone without it. */
    public static function give(Ledger $ledger, Zone $zone, ZoneKey $key, int $now): void
    {
        $schedule = Signing::schedule($zone, $now);
        $earliest = $schedule === null || $key->published === null || $zone->signed_since === null
            ? null : $schedule->mayBeNamed($key->times($now));
        if ($earliest === null || $earliest > $now) {
            $ledger->refuse(
                'too-early',
                'Too early: resolvers may still hold the zone without this key',
                $earliest === null ? 'Not every server has the signed zone yet.'
                    : 'At the earliest '.gmdate('j M Y, H:i', $earliest).' UTC.',
                'RFC 7583 §3.3.1',
            );
        }
        if (! self::isDelegated($zone)) {
            $ledger->refuse(
                'not-delegated',
                Signing::parentOf($zone)?->line().' does not delegate '.$zone->title(),
                'A DS stands beside the NS records of a delegation: add those first.',
                'RFC 4035 §2.4',
                link: ($above = Signing::parentOf($zone)) === null ? null : at('name.zone', $above->id),
            );
        }
        $parent = self::write($ledger, $zone, [$key]);
        $key->ds_asked ??= $now;
        $key->save();
        ServedTtls::given($zone);
        $ledger->later($parent === null
            ? 'Hand this DS to the parent: '.$zone->title().'. DS '.$key->ds()->text()
            : "The DS reaches resolvers with the next shipment of {$parent->line()}");
    }

    /** Does the zone above, where it is ours, name the servers of this one? */
    public static function isDelegated(Zone $zone): bool
    {
        $parent = Signing::parentOf($zone);

        return $parent === null
            || Record::query()->where('zone_id', $parent->id)->where('owner', $zone->name)->where('type', RecordType::NS)->exists();
    }

    /** @return list<Server> resolvers that are meant to hold an anchor of the zone */
    public static function anchoredAt(Zone $zone): array
    {
        return array_values(Server::query()->whereNotNull('resolving')->orderBy('name')->get()->filter(
            static fn (Server $s): bool => self::anchorsOf($s, $zone->origin()) !== [],
        )->all());
    }

    /**
     * Resolvers that would be left without an anchor if an old entry went: they hold one of the zone and not the newest, or were not
     * brought what they are meant to hold.
     *
     * @return list<Server>
     */
    public static function anchoredBefore(Zone $zone): array
    {
        $newest = self::entry($zone);
        $line = $newest === null ? '' : "$zone->name DS {$newest->ds()->text()}";

        return array_values(array_filter(
            self::anchoredAt($zone),
            static fn (Server $s): bool => ! in_array($line, self::anchorsOf($s, $zone->origin()), true)
                || (Brought::to($s->id, 'resolving')['resolving'] ?? null) !== Resolving::digest($s),
        ));
    }

    /** @return list<string> lines of a server's anchors that are of that zone */
    public static function anchorsOf(Server $server, Name $zone): array
    {
        return array_values(array_filter(
            $server->resolving['anchors'] ?? [],
            static fn (string $line): bool => Name::tryParse(explode(' ', $line)[0])?->equals($zone) === true,
        ));
    }
}
