<?php

declare(strict_types=1);

namespace App\Domain\Name;

use App\Acts\Engine\Ledger;
use App\Models\Server;
use App\Models\Speaks;
use App\Models\Zone;

/** What no update carries to a server that is reached by the standards alone: it is done there, by who keeps the server. */
final class KeptByHand
{
    /** The zone is to be there no longer. */
    public static function sayStays(Ledger $ledger, Zone $zone, ?string $on = null): void
    {
        $names = self::names($zone, $on);
        $catalog = self::catalog($zone);
        if ($names !== [] && $catalog !== null) {
            $who = implode(', ', $names);
            $ledger->later("$who stops answering {$zone->title()} when the catalog $catalog, read there, lists it no more");

            return;
        }
        $names === [] ?: $ledger->warn(
            'stays-by-hand',
            implode(', ', $names)." goes on answering {$zone->title()} until who keeps the server takes it away",
            'No update takes a zone off a server.',
            'RFC 2136 §3.4.2',
        );
    }

    /** Who may copy and update the zone, or how long names last, is changed. */
    public static function sayTerms(Ledger $ledger, Zone $zone): void
    {
        $primary = $zone->primaryPlacement()?->server;
        if ($primary?->speaks === Speaks::Here) {
            $ledger->later('Who may copy is in force at once: it is handed out from here');
            $zone->update_mode === 'refused' ?: $ledger->warn(
                'here-takes-no-updates',
                "$primary->name takes no updates from outside",
                'What it hands out is the plan; names that clients register need a primary that takes updates.',
                field: 'updateMode',
            );

            return;
        }
        $names = $primary === null ? [] : self::names($zone, $primary->id);
        $names === []
            ? $ledger->later('In force when the zone is next shipped to its primary')
            : $ledger->warn(
                'terms-by-hand',
                "$names[0] is not told who may copy or update {$zone->title()}, nor how long names last",
                'It is reached by the standards alone: who keeps it sets that there.',
            );
    }

    /** The catalog that lists the zone, where it is handed out from here (RFC 9432). */
    public static function catalog(Zone $zone): ?string
    {
        $primary = $zone->primaryPlacement()?->server;
        $name = $primary?->speaks === Speaks::Here ? $primary->catalogOf($zone->view) : null;

        return $name === null ? null : rtrim((string) $name, '.');
    }

    /** @return list<string> servers of the zone that are reached by the standards */
    private static function names(Zone $zone, ?string $on): array
    {
        $placements = $zone->placements()->with('server')->when($on !== null, static fn ($q) => $q->where('server_id', $on))->get();

        return array_values($placements->pluck('server')->filter(static fn (Server $s): bool => $s->speaks === Speaks::Standard)
            ->map(static fn (Server $s): string => $s->name)->all());
    }
}
