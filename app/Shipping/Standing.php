<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Links\LeaseLink;
use App\Links\ScopeForm;
use App\Models\ScopeServer;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Stage;
use Illuminate\Support\Facades\DB;

/** How much of what a server holds is in effect there, by the same rule as the state chain of each zone and scope. */
final class Standing
{
    /** Scopes of a server of which each is computed while somebody waits. */
    private const NOW = 300;

    /**
     * @param  list<string>  $servers
     * @return array<string, array{holds: int, inEffect: int, drifted: int, seen: ?string}> by server; seen: when it was looked at, where it
     *     is not as of now
     */
    public static function of(array $servers): array
    {
        $standing = [];
        $drifted = DB::table('drifts')->whereIn('server_id', $servers)->groupBy('server_id')
            ->selectRaw('server_id, COUNT(*) as n')->pluck('n', 'server_id');
        $lost = DB::table('drifts')->whereIn('server_id', $servers)->get(['server_id', 'object_id'])->groupBy('server_id')
            ->map(static fn ($rows): array => $rows->pluck('object_id')->map(strval(...))->all())->all();
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
                'drifted' => (int) ($drifted[$row->server_id] ?? 0), 'seen' => null,
            ];
        }
        $states = Drifts::states();
        $scopes = DB::table('scope_servers')->join('scopes', 'scopes.id', '=', 'scope_servers.scope_id')
            ->whereIn('server_id', $servers)->where('scopes.stage', '!=', Stage::Planned)->groupBy('server_id')
            ->selectRaw('server_id, COUNT(*) AS n')->pluck('n', 'server_id');
        foreach (Server::query()->whereIn('id', $scopes->keys())->where('kind', ServerKind::Dhcp)->get() as $server) {
            $holds = (int) $scopes[$server->id];
            $state = $states[$server->id] ?? null;
            $seen = $holds > self::NOW && $state?->problem === null && is_string($state?->compared_at) ? $state->compared_at : null;
            $standing[$server->id] = [
                'holds' => $holds,
                // Of very many it is told what the last look found, or the last shipment: to compute each anew takes seconds.
                'inEffect' => match (true) {
                    $holds <= self::NOW => self::provedNow($server, array_flip($lost[$server->id] ?? [])),
                    $seen === null => self::provedOnce($server),
                    default => max(0, $holds - (int) $state->differing - (int) $state->waiting),
                },
                'drifted' => (int) ($drifted[$server->id] ?? 0),
                'seen' => $seen,
            ];
        }

        return $standing;
    }

    /** By the last shipment of each, whatever was changed since. */
    private static function provedOnce(Server $server): int
    {
        return ScopeServer::query()->where('server_id', $server->id)->whereNotNull('shipped_digest')->whereNotNull('verified_at')
            ->whereHas('scope', static fn ($q) => $q->where('stage', '!=', Stage::Planned))->count();
    }

    /** @param  array<string, int>  $lost  scopes that drifted there */
    private static function provedNow(Server $server, array $lost): int
    {
        $scopes = LeaseLink::placed($server)->where('stage', '!=', Stage::Planned);
        $placements = ScopeServer::query()->where('server_id', $server->id)->get()->keyBy('scope_id');

        return $scopes->filter(
            static fn ($scope): bool => isset($placements[$scope->id]) && Chain::ofScope(
                [$placements[$scope->id]],
                [$server->id => ScopeForm::digest($scope, $server)],
                isset($lost[$scope->id]) ? [$server->name] : [],
            )->inEffect,
        )->count();
    }
}
