<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Lease;
use App\Models\Server;
use App\Models\Stage;
use Illuminate\Database\Eloquent\Builder;

/**
 * Leases that a server gave, that still run, and that it has no more: it was rebuilt, or lost its disk. Given back to it, their clients
 * keep their addresses; otherwise it gives them to others. What a pair leases is brought back by the partner.
 */
final class LostLeases
{
    /** @return Builder<Lease> */
    public static function of(Server $server): Builder
    {
        return Lease::query()->where('leases.server_id', $server->id)->where('leases.state', 'active')->whereNotNull('leases.gone_at')
            ->where(fn ($q) => $q->whereNotNull('leases.mac')->orWhereNotNull('leases.client_id'))
            ->where('leases.ends_at', '>', now()->addMinute())
            // Its scope is still there, by a share of its own, and not a pair's.
            ->whereExists(
                fn ($q) => $q->from('scope_servers')->join('scopes', 'scopes.id', '=', 'scope_servers.scope_id')
                    ->whereColumn('scope_servers.scope_id', 'leases.scope_id')->whereColumn('scope_servers.server_id', 'leases.server_id')
                    ->whereNull('scopes.pair_id')->where('scopes.stage', Stage::Live),
            )
            // Nobody else has the address by now, wherever.
            ->whereNotExists(
                fn ($q) => $q->from('leases as other')->whereColumn('other.address', 'leases.address')
                    ->whereColumn('other.scope_id', 'leases.scope_id')->where('other.state', 'active')->whereNull('other.gone_at')
                    ->where('other.ends_at', '>', now()),
            )
            // Nor is its client served elsewhere in the scope.
            ->whereNotExists(
                fn ($q) => $q->from('leases as same')->whereColumn('same.mac', 'leases.mac')->whereNull('leases.client_id')
                    ->whereColumn('same.scope_id', 'leases.scope_id')->where('same.state', 'active')->whereNull('same.gone_at')
                    ->where('same.ends_at', '>', now()),
            );
    }
}
