<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Links\ScopeForm;
use App\Links\StandinDhcpLink;
use App\Models\ScopeServer;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Stage;
use Illuminate\Support\Facades\DB;

/** How much of what a server holds is in effect there, by the same rule as the state chain of each zone and scope. */
final class Standing
{
    /**
     * @param  list<string>  $servers
     * @return array<string, array{holds: int, inEffect: int, drifted: int}> by server
     */
    public static function of(array $servers): array
    {
        $standing = [];
        $drifted = DB::table('drifts')->whereIn('server_id', $servers)->groupBy('server_id')
            ->selectRaw('server_id, COUNT(*) as n')->pluck('n', 'server_id');
        $lost = DB::table('drifts')->whereIn('server_id', $servers)->get(['server_id', 'object_id'])->groupBy('server_id')
            ->map(fn ($rows) => $rows->pluck('object_id')->flip());
        // A change that waits, an older serial or a shipment without proof: not in effect, as Chain::ofSet() says of one zone.
        $zones = DB::table('zone_servers')->join('zones', 'zones.id', '=', 'zone_servers.zone_id')
            ->whereIn('zone_servers.server_id', $servers)->groupBy('zone_servers.server_id')
            ->leftJoin(
                'drifts',
                fn ($j) => $j->on('drifts.server_id', '=', 'zone_servers.server_id')
                    ->on('drifts.object_id', '=', 'zones.id')->where('drifts.kind', 'zone'),
            )
            ->leftJoinSub(
                DB::table('record_changes')->whereNull('serial')->groupBy('zone_id')->select('zone_id'),
                'waits',
                'waits.zone_id',
                '=',
                'zones.id',
            )
            ->selectRaw(
                'zone_servers.server_id, COUNT(*) as n, SUM(zones.serial > 0 AND COALESCE(shipped_serial, -1) = zones.serial '
                    .'AND verified_at IS NOT NULL AND waits.zone_id IS NULL AND drifts.id IS NULL) as proved',
            )->get();
        foreach ($zones as $row) {
            $standing[$row->server_id] = [
                'holds' => (int) $row->n,
                'inEffect' => (int) $row->proved,
                'drifted' => (int) ($drifted[$row->server_id] ?? 0),
            ];
        }
        foreach (Server::query()->whereIn('id', $servers)->where('kind', ServerKind::Dhcp)->get() as $server) {
            $scopes = StandinDhcpLink::placed($server)->where('stage', '!=', Stage::Planned);
            $placements = ScopeServer::query()->where('server_id', $server->id)->get()->keyBy('scope_id');
            $proved = $scopes->filter(
                fn ($scope): bool => isset($placements[$scope->id])
                    && Chain::ofScope(
                        [$placements[$scope->id]],
                        [$server->id => ScopeForm::digest($scope, $server)],
                        isset($lost[$server->id][$scope->id]) ? [$server->name] : [],
                    )->inEffect,
            );
            if ($scopes->isNotEmpty()) {
                $standing[$server->id] = [
                    'holds' => $scopes->count(),
                    'inEffect' => $proved->count(),
                    'drifted' => (int) ($drifted[$server->id] ?? 0),
                ];
            }
        }

        return $standing;
    }
}
