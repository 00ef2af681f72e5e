<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Models\Part;
use App\Models\ServerKind;
use App\Models\Stage;
use HarborPost\Core\Shipping\Order;
use Illuminate\Support\Facades\DB;

/**
 * Which server is shipped to before which, from what waits: the primary of a zone before its secondaries, the server of a new child before
 * that of the parent which delegates it, the servers of scopes before the switches that relay to them.
 */
final class ShipOrder
{
    /**
     * @param  list<string>  $servers
     * @return array<string, list<string>> server → those that it waits for, in the order in which they are shipped to
     */
    public static function of(array $servers): array
    {
        $zones = self::waitingZones($servers);

        // In a ring the delegation is kept: a secondary fetches later by itself.
        return Order::of($servers, [...self::parents($zones), ...self::secondaries($zones), ...self::relays($servers)]);
    }

    /**
     * @param  list<string>  $servers
     * @return list<\stdClass> zones of these servers that are not in effect everywhere: id, name, view_id, primary, fresh
     */
    private static function waitingZones(array $servers): array
    {
        $late = DB::table('zone_servers as z')->join('zones', 'zones.id', '=', 'z.zone_id')->whereIn('z.server_id', $servers)
            ->where(
                fn ($q) => $q->whereNull('z.verified_at')->orWhereRaw('COALESCE(z.shipped_serial, -1) != zones.serial')->orWhereExists(
                    fn ($e) => $e->from('record_changes')->whereColumn('record_changes.zone_id', 'zones.id')
                        ->whereNull('record_changes.serial'),
                ),
            )->distinct()->select('zones.id');

        return array_values(
            DB::table('zones')->joinSub($late, 'late', 'late.id', '=', 'zones.id')
                ->leftJoin('zone_servers as p', fn ($j) => $j->on('p.zone_id', '=', 'zones.id')->where('p.part', Part::Primary))
                ->orderBy('zones.name')
                ->get(['zones.id', 'zones.name', 'zones.view_id', 'p.server_id as primary', 'p.shipped_serial as shipped'])->all(),
        );
    }

    /**
     * @param  list<\stdClass>  $zones
     * @return list<array{string, string}>
     */
    private static function secondaries(array $zones): array
    {
        $arrows = [];
        $of = array_column($zones, 'primary', 'id');
        foreach (array_chunk(array_keys($of), 1000) as $chunk) {
            $rows = DB::table('zone_servers')->whereIn('zone_id', $chunk)->where('part', Part::Secondary)->get(['zone_id', 'server_id']);
            foreach ($rows as $row) {
                $of[$row->zone_id] === null || $arrows["{$of[$row->zone_id]} $row->server_id"] = [$of[$row->zone_id], $row->server_id];
            }
        }

        return array_values($arrows);
    }

    /**
     * A child that answers nowhere yet comes before the parent which sends people to it.
     *
     * @param  list<\stdClass>  $zones
     * @return list<array{string, string}>
     */
    private static function parents(array $zones): array
    {
        $by = [];
        foreach ($zones as $zone) {
            $by["$zone->view_id $zone->name"] = $zone;
        }
        $arrows = [];
        foreach ($zones as $child) {
            if ($child->primary === null || $child->shipped !== null) {
                continue;
            }
            for ($name = $child->name; ($dot = strpos($name, '.')) !== false && $dot + 1 < strlen($name);) {
                $name = substr($name, $dot + 1);
                $parent = $by["$child->view_id $name"] ?? null;
                if ($parent !== null) {
                    $parent->primary === null || $arrows["$child->primary $parent->primary"] = [$child->primary, $parent->primary];
                    break;
                }
            }
        }

        return array_values($arrows);
    }

    /**
     * A switch relays to a scope that is there. A server that has all its scopes holds no switch up, not even when it is away.
     *
     * @param  list<string>  $servers
     * @return list<array{string, string}>
     */
    private static function relays(array $servers): array
    {
        $kinds = DB::table('servers')->whereIn('id', $servers)->pluck('kind', 'id');
        $new = DB::table('scope_servers')->join('scopes', 'scopes.id', '=', 'scope_servers.scope_id')
            ->where('scopes.stage', '!=', Stage::Planned->value)->whereNull('shipped_digest')->distinct()->pluck('server_id')->all();
        $arrows = [];
        foreach ($kinds->filter(static fn ($k, $id): bool => $k === ServerKind::Dhcp->value && in_array($id, $new, true))
            ->keys() as $first) {
            foreach ($kinds->filter(static fn ($k): bool => $k === ServerKind::Network->value)->keys() as $then) {
                $arrows[] = [(string) $first, (string) $then];
            }
        }

        return $arrows;
    }
}
