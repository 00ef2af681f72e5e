<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Acts\Engine\Outcome;
use App\Acts\Engine\Written;
use App\Models\ScopeServer;
use App\Models\Server;
use App\Models\ZoneServer;

/** Where what an act wrote has to be brought before it is in effect: the servers of its zones and scopes. */
final class NextSteps
{
    private const MOST = 4;

    /** @return list<array{words: string, link: string}> */
    public static function of(Outcome $outcome): array
    {
        $zones = self::touched($outcome->written(), 'zone', ['record', 'zone on a server']);
        $scopes = self::touched($outcome->written(), 'scope', ['range', 'exclusion', 'reservation', 'option', 'scope on a server']);
        $of = [];
        foreach ($zones === [] ? [] : ZoneServer::query()->whereIn('zone_id', $zones)->where('part', 'primary')->get() as $placement) {
            $of[$placement->server_id][] = $placement->zone_id;
        }
        foreach ($scopes === [] ? [] : ScopeServer::query()->whereIn('scope_id', $scopes)->get() as $placement) {
            $of[$placement->server_id][] = $placement->scope_id;
        }
        $steps = [];
        $servers = Server::query()->whereIn('id', array_map(strval(...), array_keys($of)))->whereNotNull('control')->where('held', false)
            ->orderBy('name')->limit(self::MOST)->get();
        foreach ($servers as $server) {
            $only = count($of[$server->id]) <= 20 ? '?'.http_build_query(['only' => array_values(array_unique($of[$server->id]))]) : '';
            $steps[] = ['words' => "Ship to $server->name", 'link' => "/ship/server/$server->id$only"];
        }

        return $steps;
    }

    /**
     * @param  list<Written>  $written
     * @param  list<string>  $parts  nouns of rows that belong to it
     * @return list<string>
     */
    private static function touched(array $written, string $noun, array $parts): array
    {
        $ids = [];
        foreach ($written as $row) {
            $id = $row->noun === $noun && $row->op !== 'cut' ? $row->id : (in_array($row->noun, $parts, true) ? $row->within : null);
            if ($id !== null) {
                $ids[$id] = $id;
            }
        }

        return array_values($ids);
    }
}
