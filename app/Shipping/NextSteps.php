<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Acts\Engine\Ledger;
use App\Acts\Engine\Outcome;
use App\Acts\Engine\Written;
use App\Domain\Back\WayBack;
use App\Models\ServerKind;

/** What somebody does next, when an act is done: ship it to the servers that do not fetch it by themselves, ask for it, take it back. */
final class NextSteps
{
    private const MOST = 4;

    /** @return list<array{words: string, link: string}> */
    public static function of(Outcome $outcome): array
    {
        $steps = $names = $objects = $first = [];
        foreach (Destinations::of($outcome) as $stop) {
            $server = $stop['server'];
            // A secondary fetches from the server before it.
            $follows = $server->kind === ServerKind::Dns && array_intersect(explode(', ', $stop['after']), $first) !== [];
            $first[] = $server->name;
            if ($server->held || ! $server->isReached() || $follows) {
                continue;
            }
            $names[] = $server->name;
            $objects = array_unique([...$objects, ...$stop['objects']]);
            $only = count($stop['objects']) <= Together::MOST ? '?'.http_build_query(['only' => $stop['objects']]) : '';
            $steps[] = ['words' => "Ship to $server->name", 'link' => at('ship.server', $server->id).$only];
        }
        if (count($steps) > 1 && count($objects) <= Together::MOST) {
            $last = array_pop($names);
            $words = count($names) < self::MOST ? implode(', ', $names)." and $last" : 'all '.(count($names) + 1).' servers';
            $all = http_build_query(['only' => array_values($objects)]);
            $steps = [['words' => "Ship to $words", 'link' => at('ship.together')."?$all"]];
        }

        return [...array_slice($steps, 0, self::MOST), ...self::more($outcome)];
    }

    /** @return list<array{words: string, link: string}> */
    private static function more(Outcome $outcome): array
    {
        $steps = [];
        $written = array_merge(...array_map(static fn (Ledger $l): array => $l->written, $outcome->ledgers));
        foreach ($written as $one) {
            $owner = $one->noun === 'record' ? $one->after['owner'] ?? null : null;
            if (is_string($owner) && ! str_starts_with($owner, '*')) {
                $steps[] = ['words' => 'Ask for it', 'link' => at('name.lookup').'?server=all&q='.urlencode(rtrim($owner, '.'))];
                break;
            }
        }
        foreach ($written as $one) {
            if ($one->noun === 'address' && $one->op === 'add' && $one->within !== null) {
                $steps[] = ['words' => 'Place another', 'link' => at('plan.prefix', $one->within).'#place'];
                break;
            }
        }
        $back = $written !== [] && array_filter($written, static fn (Written $w): bool => ! WayBack::knows($w->noun)) === [];
        if ($back) {
            $acts = array_map(static fn (Ledger $l): string => $l->actId, $outcome->ledgers);
            $steps[] = ['words' => 'Take it back', 'link' => at('watch.back').'?act='.implode('+', $acts)];
        }

        return $steps;
    }
}
