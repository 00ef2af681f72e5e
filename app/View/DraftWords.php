<?php

declare(strict_types=1);

namespace App\View;

use App\Acts\Engine\Agreement;
use App\Models\Draft;
use App\Models\DraftState;
use App\Models\DraftVerdict;
use App\Queries\ShipTimes;

/** Where a draft stands, in words for a list. */
final class DraftWords
{
    /** The zone that forms for times have at first. */
    private const ZONE = 'Europe/London';

    /**
     * The next windows of the servers that a change goes to, as times to be committed at, in the zone that the form has at first.
     *
     * @param  list<array{server: \App\Models\Server, what: string, when: string, after: string, objects: list<string>}>  $stops
     * @return list<array{string, string}> words and local time
     */
    public static function windows(array $stops, ShipTimes $times): array
    {
        $offers = [];
        foreach ($stops as $stop) {
            $next = $times->next($stop['server']);
            if ($next !== null) {
                $at = $next->from->setTimezone(new \DateTimeZone(self::ZONE));
                $offers[$at->format('Y-m-d H:i')] ??= 'Window of '.$stop['server']->name.': '.$at->format('D j M H:i');
            }
        }
        ksort($offers);

        return array_map(static fn (string $at, string $words): array => [$words, $at], array_keys($offers), array_values($offers));
    }

    public static function state(Draft $draft): string
    {
        if ($draft->ended_at !== null) {
            $emergency = $draft->decisions->contains('verdict', DraftVerdict::Emergency) ? ', in an emergency' : '';

            return "{$draft->state->value} {$draft->ended_at->diffForHumans()}$emergency";
        }
        $refused = $draft->standing()->firstWhere('verdict', DraftVerdict::Refused);
        $agreed = Agreement::agreed($draft)->count();

        return match (true) {
            $draft->state === DraftState::Open => 'open',
            $refused !== null => "refused by {$refused->person->name}",
            $draft->due_problem !== '' => 'not committed at its time',
            $draft->due_at !== null => 'at '.$draft->due_at->format('D j M H:i').' UTC'.($agreed > 0 ? ", $agreed agreed" : ''),
            $agreed > 0 => "$agreed agreed",
            default => 'waits',
        };
    }
}
