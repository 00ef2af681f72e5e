<?php

declare(strict_types=1);

namespace App\Queries;

use App\Links\StandinDhcpLink;
use App\Models\ScopeServer;
use App\Models\Server;
use App\View\Chain;
use Illuminate\Support\Facades\DB;

/** How much of what a server holds is in effect there, by the same rule as the state chain of each zone and scope. */
final class Standing
{
    /** @return array<string, array{holds: int, inEffect: int}> by server */
    public static function ofAll(): array
    {
        $standing = [];
        // A change that waits, an older serial or a shipment without proof: not in effect, as Chain::ofSet() says of one zone.
        $zones = DB::table('zone_servers')->join('zones', 'zones.id', '=', 'zone_servers.zone_id')->groupBy('server_id')
            ->leftJoinSub(DB::table('record_changes')->whereNull('serial')->groupBy('zone_id')->select('zone_id'), 'waits', 'waits.zone_id', '=', 'zones.id')
            ->selectRaw('server_id, COUNT(*) as n, SUM(zones.serial > 0 AND COALESCE(shipped_serial, -1) = zones.serial AND verified_at IS NOT NULL AND waits.zone_id IS NULL) as proved')->get();
        foreach ($zones as $row) {
            $standing[$row->server_id] = ['holds' => (int) $row->n, 'inEffect' => (int) $row->proved];
        }
        foreach (Server::query()->where('kind', 'dhcp')->get() as $server) {
            $scopes = StandinDhcpLink::placed($server);
            $placements = ScopeServer::query()->where('server_id', $server->id)->get()->keyBy('scope_id');
            $proved = $scopes->filter(fn ($scope): bool => isset($placements[$scope->id]) && Chain::ofScope([$placements[$scope->id]], [$server->id => StandinDhcpLink::digest($scope, $server)])->inEffect);
            if ($scopes->isNotEmpty()) {
                $standing[$server->id] = ['holds' => $scopes->count(), 'inEffect' => $proved->count()];
            }
        }

        return $standing;
    }
}
