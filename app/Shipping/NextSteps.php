<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Acts\Engine\Outcome;
use App\Models\ServerKind;

/** What somebody does next, when an act is done: ship it to the servers that do not fetch it by themselves. */
final class NextSteps
{
    private const MOST = 4;

    /** Of more objects, everything that differs is shown. */
    private const NAMED = 20;

    /** @return list<array{words: string, link: string}> */
    public static function of(Outcome $outcome): array
    {
        $steps = [];
        $first = [];
        foreach (Destinations::of($outcome) as $stop) {
            $server = $stop['server'];
            // A secondary fetches from the server before it.
            $follows = $server->kind === ServerKind::Dns && array_intersect(explode(', ', $stop['after']), $first) !== [];
            $first[] = $server->name;
            if ($server->held || $server->control === null || $follows) {
                continue;
            }
            $only = count($stop['objects']) <= self::NAMED ? '?'.http_build_query(['only' => $stop['objects']]) : '';
            $steps[] = ['words' => "Ship to $server->name", 'link' => "/ship/server/$server->id$only"];
        }

        return array_slice($steps, 0, self::MOST);
    }
}
