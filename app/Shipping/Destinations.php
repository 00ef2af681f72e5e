<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Acts\Engine\Outcome;
use App\Models\ScopeServer;
use App\Models\Server;
use App\Models\ShipsWhen;
use App\Models\ZoneServer;
use App\Queries\ShipTimes;

/**
 * Where what is written has to be brought, in which order, and when that is: the servers of its zones and scopes.
 *
 * @phpstan-type Stop array{server: Server, what: string, when: string, after: string, objects: list<string>}
 */
final class Destinations
{
    /** @return list<Stop> in the order in which they are shipped to */
    public static function of(Outcome $outcome): array
    {
        $zones = self::touched($outcome, 'zone', ['record', 'zone on a server']);
        $scopes = self::touched($outcome, 'scope', ['range', 'exclusion', 'reservation', 'option', 'delegation', 'scope on a server']);
        $of = [];
        foreach ($zones === [] ? [] : ZoneServer::query()->whereIn('zone_id', $zones)->get() as $placement) {
            $of[$placement->server_id]['zone'][$placement->zone_id] = true;
        }
        foreach ($scopes === [] ? [] : ScopeServer::query()->whereIn('scope_id', $scopes)->get() as $placement) {
            $of[$placement->server_id]['scope'][$placement->scope_id] = true;
        }
        // What is only rehearsed is in no table.
        foreach ($outcome->written() as $row) {
            $server = $row->after['server_id'] ?? null;
            $kind = ['zone on a server' => 'zone', 'scope on a server' => 'scope'][$row->noun] ?? null;
            if ($kind !== null && is_string($server) && $row->within !== null) {
                $of[$server][$kind][$row->within] = true;
            }
        }
        if ($of === []) {
            return [];
        }
        $servers = Server::query()->whereIn('id', array_map(strval(...), array_keys($of)))->orderBy('name')->get()->keyBy('id');
        $times = ShipTimes::now();
        $stops = [];
        foreach (ShipOrder::of(array_values(array_map(strval(...), $servers->keys()->all()))) as $id => $waits) {
            $server = $servers->get($id) ?? throw new \LogicException('an order of others');
            $stops[] = [
                'server' => $server, 'what' => self::words($of[$id]), 'when' => self::when($server, $times),
                'after' => implode(', ', array_map(static fn (string $w): string => $servers->get($w)->name ?? '', $waits)),
                'objects' => array_map(strval(...), array_keys(array_merge(...array_values($of[$id])))),
            ];
        }

        return $stops;
    }

    /** When a server is shipped to, said of what waits now. */
    public static function when(Server $server, ShipTimes $times): string
    {
        $frozen = $times->frozen($server);
        $next = $server->ships === ShipsWhen::Windows ? $times->open($server) ?? $times->next($server) : null;

        return match (true) {
            $server->held => 'held',
            $server->control === null => 'not from here',
            $frozen !== null => 'frozen until '.$frozen->ends_at->format('D j M H:i').' UTC',
            $server->ships === ShipsWhen::Once => 'at once',
            $next !== null => 'in its window, from '.gmdate('D j M H:i', $next->from->getTimestamp()).' UTC',
            default => 'by hand',
        };
    }

    /** @param  array<string, array<string, true>>  $objects  by kind */
    private static function words(array $objects): string
    {
        $said = [];
        foreach ($objects as $kind => $ids) {
            $said[] = count($ids).' '.$kind.(count($ids) === 1 ? '' : 's');
        }

        return implode(', ', $said);
    }

    /**
     * @param  list<string>  $parts  nouns of rows that belong to it
     * @return list<string>
     */
    private static function touched(Outcome $outcome, string $noun, array $parts): array
    {
        $ids = [];
        foreach ($outcome->written() as $row) {
            $id = $row->noun === $noun && $row->op !== 'cut' ? $row->id : (in_array($row->noun, $parts, true) ? $row->within : null);
            if ($id !== null) {
                $ids[$id] = $id;
            }
        }

        return array_values($ids);
    }
}
