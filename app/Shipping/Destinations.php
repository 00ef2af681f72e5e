<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Acts\Engine\Ledger;
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
        $of = [];
        [$zones, $scopes] = [self::zones($outcome->ledgers), self::scopes($outcome->ledgers)];
        foreach ($zones === [] ? [] : ZoneServer::query()->whereIn('zone_id', $zones)->get() as $placement) {
            $of[$placement->server_id]['zone'][$placement->zone_id] = true;
        }
        foreach ($scopes === [] ? [] : ScopeServer::query()->whereIn('scope_id', $scopes)->get() as $placement) {
            $of[$placement->server_id]['scope'][$placement->scope_id] = true;
        }
        foreach ($outcome->ledgers as $ledger) {
            foreach (array_diff_key($ledger->reached, ['' => true]) as $server => $ids) {
                $of[$server]['scope'] = ($of[$server]['scope'] ?? []) + $ids;
            }
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

    /**
     * @param  list<Stop>  $stops  of the whole of which the act is a part
     * @return list<string> names of those servers to which this act brings something
     */
    public static function namesOf(array $stops, Ledger $ledger): array
    {
        $objects = [...self::zones([$ledger]), ...self::scopes([$ledger])];
        $its = array_filter(
            $stops,
            static fn (array $s): bool => isset($ledger->reached[$s['server']->id]) || array_intersect($objects, $s['objects']) !== [],
        );

        return array_values(array_map(static fn (array $s): string => $s['server']->name, $its));
    }

    /** When a server is shipped to, said of what waits now. */
    public static function when(Server $server, ShipTimes $times): string
    {
        $frozen = $times->frozen($server);
        $next = $server->ships === ShipsWhen::Windows ? $times->open($server) ?? $times->next($server) : null;

        return match (true) {
            $server->held => 'held',
            ! $server->isReached() => 'not from here',
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
     * @param  list<Ledger>  $ledgers
     * @return list<string>
     */
    private static function zones(array $ledgers): array
    {
        return self::touched($ledgers, 'zone', ['record', 'zone on a server']);
    }

    /**
     * @param  list<Ledger>  $ledgers
     * @return list<string> to be brought to each server that has them
     */
    private static function scopes(array $ledgers): array
    {
        $reached = array_map(static fn (Ledger $l): array => array_map(strval(...), array_keys($l->reached[''] ?? [])), $ledgers);

        return array_values(array_unique([
            ...self::touched($ledgers, 'scope', ['range', 'exclusion', 'reservation', 'option', 'delegation', 'scope on a server']),
            ...array_merge(...$reached),
        ]));
    }

    /**
     * @param  list<Ledger>  $ledgers
     * @param  list<string>  $parts  nouns of rows that belong to it
     * @return list<string>
     */
    private static function touched(array $ledgers, string $noun, array $parts): array
    {
        $ids = [];
        foreach ($ledgers as $ledger) {
            foreach (array_intersect_key($ledger->many, array_fill_keys($parts, true)) as $many) {
                $ids += $many['within'];
            }
            foreach ($ledger->written as $row) {
                $id = $row->noun === $noun && $row->op !== 'cut' ? $row->id : (in_array($row->noun, $parts, true) ? $row->within : null);
                $id === null ?: $ids[$id] = true;
            }
        }

        return array_map(strval(...), array_keys($ids));
    }
}
