<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Server;
use App\Models\Speaks;
use App\Models\View;
use App\Models\Zone;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Serial;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/**
 * Zones that are handed out from here, as they were shipped last.
 *
 * @phpstan-type ServedZone array{zone: Zone, serial: Serial, soa: Soa, from: Serial}
 */
final class HandedOutZones
{
    /** The one server of which nothing is outside. */
    public static function server(): ?Server
    {
        return Server::query()->where('speaks', Speaks::Here)->orderBy('id')->first();
    }

    /**
     * One in each view, in the order of views.
     *
     * @return list<ServedZone>
     */
    public static function named(Server $server, string $name): array
    {
        return self::of($server, Zone::query()->where('name', $name));
    }

    /** @return list<ServedZone> of a view */
    public static function inView(Server $server, string $view): array
    {
        return self::of($server, Zone::query()->where('view_id', $view));
    }

    /**
     * What secondaries may have to be told of: each zone with its serial.
     *
     * @return array<string, int> zone → serial
     */
    public static function serials(Server $server): array
    {
        return array_map(intval(...), DB::table('served_zones')->where('server_id', $server->id)->pluck('serial', 'zone_id')->all());
    }

    /** @return list<string> views of which zones are handed out */
    public static function views(Server $server): array
    {
        return array_values(array_map(strval(...), DB::table('served_zones')->join('zones', 'zones.id', '=', 'zone_id')
            ->where('server_id', $server->id)->distinct()->orderBy('view_id')->pluck('view_id')->all()));
    }

    /**
     * The lists of its zones, as they are handed out.
     *
     * @return list<array{name: string, view: string, serial: int, zones: int}>
     */
    public static function catalogs(Server $server): array
    {
        $count = DB::table('served_zones')->join('zones', 'zones.id', '=', 'zone_id')->where('server_id', $server->id)
            ->groupBy('view_id')->selectRaw('view_id, count(*) as zones')->pluck('zones', 'view_id');
        $serials = DB::table('served_catalogs')->where('server_id', $server->id)->pluck('serial', 'view_id');
        $found = [];
        foreach (View::query()->whereIn('id', $count->keys())->orderBy('position')->get() as $view) {
            $name = $server->catalogOf($view);
            if ($name !== null) {
                $found[] = [
                    'name' => rtrim((string) $name, '.'), 'view' => $view->name, 'serial' => (int) ($serials[$view->id] ?? 0),
                    'zones' => (int) $count[$view->id],
                ];
            }
        }

        return $found;
    }

    /**
     * Handed out, although the plan does not place them here any more.
     *
     * @return Collection<int, Zone>
     */
    public static function left(Server $server): Collection
    {
        return Zone::query()->with('view')->whereIn('id', DB::table('served_zones as s')->where('s.server_id', $server->id)
            ->whereNotExists(static fn ($q) => $q->from('zone_servers')->whereColumn('zone_servers.zone_id', 's.zone_id')
                ->where('zone_servers.server_id', $server->id))->select('zone_id'))->orderBy('name')->get()->toBase();
    }

    /**
     * @param  \Illuminate\Database\Eloquent\Builder<Zone>  $which
     * @return list<ServedZone>
     */
    private static function of(Server $server, \Illuminate\Database\Eloquent\Builder $which): array
    {
        $zones = $which->whereIn('id', DB::table('served_zones')->where('server_id', $server->id)->select('zone_id'))
            ->with(['view', 'placements.server'])->get();
        $served = DB::table('served_zones')->where('server_id', $server->id)->whereIn('zone_id', $zones->pluck('id'))->get()
            ->keyBy('zone_id');
        $found = [];
        foreach ($zones->sortBy(static fn (Zone $z): string => sprintf('%06d %s', $z->view->position, $z->name)) as $zone) {
            $row = $served[$zone->id] ?? null;
            $soa = $row === null ? null : RdataTypes::fromText(RecordType::of(RecordType::SOA), Fields::ofLine((string) $row->soa));
            if ($row !== null && $soa instanceof Soa) {
                // What inherits its TTL has the one that was shipped, not the one that is meant for the next time.
                $zone->default_ttl = (int) $row->default_ttl;
                $found[] = [
                    'zone' => $zone, 'serial' => Serial::of((int) $row->serial), 'soa' => $soa,
                    'from' => Serial::of((int) $row->steps_from),
                ];
            }
        }

        return $found;
    }
}
