<?php

declare(strict_types=1);

namespace App\View\Joined;

use App\Queries\Delegation\Delegated;
use App\Queries\Delegation\Inside;
use App\Queries\Delegation\State;
use Illuminate\Support\HtmlString;

/** Zones inside zones, and whether the one above leads into them. */
final class Delegations
{
    /** @param  list<Inside>  $tree */
    public static function draw(array $tree): HtmlString
    {
        return Drawing::of(array_map(self::box(...), $tree), 'Zones inside zones');
    }

    private static function box(Inside $node): Box
    {
        $states = array_map(static fn (Delegated $one): State => $one->state, $node->zones);
        $sign = match (true) {
            in_array(State::Missing, $states, true) => Sign::Wrong,
            in_array(State::Differs, $states, true) => Sign::Odd,
            in_array(State::Good, $states, true) => Sign::Good,
            default => Sign::Plain,
        };

        return new Box(
            $node->zones[0]->zone->title(),
            array_map(static fn (Delegated $one): string => "{$one->zone->view->name}: {$one->words()}", $node->zones),
            at('name.zone', $node->zones[0]->zone->id),
            $sign,
            null,
            array_map(self::box(...), $node->inside),
        );
    }
}
