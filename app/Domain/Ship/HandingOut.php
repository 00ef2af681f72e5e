<?php

declare(strict_types=1);

namespace App\Domain\Ship;

use App\Models\Server;
use App\Models\Speaks;
use App\Models\Zone;
use App\Queries\HandedOutZones;
use HarborPost\Core\Dns\Serial;
use Illuminate\Support\Facades\DB;

/** What is handed out from here: each zone as it was shipped, and the catalogs that list them. */
final class HandingOut
{
    /** A zone was shipped: this is what is handed out from now on. A silenced one is handed out no more. */
    public static function ship(Server $server, Zone $zone, \DateTimeInterface $at): void
    {
        if ($server->speaks !== Speaks::Here) {
            return;
        }
        if ($zone->silenced) {
            self::take($server, $zone->id);

            return;
        }
        $key = ['server_id' => $server->id, 'zone_id' => $zone->id];
        $before = DB::table('served_zones')->where($key)->first();
        // Steps name records by their TTL: where the one that most inherit was changed, all of them were.
        $goesOn = $before !== null && (int) $before->default_ttl === $zone->default_ttl
            && ! Serial::of($zone->serial)->isBefore(Serial::of((int) $before->serial));
        DB::table('served_zones')->updateOrInsert($key, [
            'serial' => $zone->serial, 'steps_from' => $goesOn ? (int) $before->steps_from : $zone->serial,
            'default_ttl' => $zone->default_ttl, 'soa' => $zone->soa(Serial::of($zone->serial))->text(),
            'at' => $at->format('Y-m-d H:i:s'),
        ]);
        if ($before === null) {
            self::listAnew($zone->view_id, $server);
        }
    }

    /** It is handed out no more. */
    public static function take(Server $server, string $zone): void
    {
        $key = ['server_id' => $server->id, 'zone_id' => $zone];
        if ($server->speaks === Speaks::Here && DB::table('served_zones')->where($key)->delete() > 0) {
            self::listAnew((string) Zone::query()->whereKey($zone)->value('view_id'), $server);
        }
    }

    /** The zone is gone from the plan. */
    public static function withdraw(Zone $zone): void
    {
        $server = HandedOutZones::server();
        $server === null ?: self::take($server, $zone->id);
    }

    /** The catalog of a view lists other zones now, or to others: its secondaries read it anew. */
    public static function listAnew(string $view, ?Server $server = null): void
    {
        $server ??= HandedOutZones::server();
        if ($server === null) {
            return;
        }
        $key = ['server_id' => $server->id, 'view_id' => $view];
        $serial = DB::table('served_catalogs')->where($key)->lockForUpdate()->value('serial');
        $next = $serial === null ? 1 : (((int) $serial) % 0xFFFFFFFF) + 1;
        DB::table('served_catalogs')->updateOrInsert($key, ['serial' => $next]);
    }
}
