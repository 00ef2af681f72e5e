<?php

declare(strict_types=1);

namespace App\Api;

use App\Acts\Drafts\Drafts;
use App\Acts\Drafts\KeepEdit;
use App\Acts\Engine\Act;
use App\Acts\Engine\Acts;
use App\Acts\Engine\Outcome;
use App\Acts\Registry;
use App\Models\Person;

/** Acts are kept in the open draft of a person, rehearsed behind what is in it already. */
final class IntoDraft
{
    /**
     * @param  list<Act>  $acts
     * @param  list<array<string, int>>  $expects
     * @return Outcome that of the rehearsal where it is blocked, else that of the keeping
     *
     * @throws Problem where an act is kept in no draft
     */
    public static function keep(Acts $engine, Person $person, array $acts, array $expects): Outcome
    {
        foreach ($acts as $act) {
            if (! Registry::isDraftable($act::class)) {
                throw Problem::of(422, 'no-draft', "{$act->title()} is done at once; it is kept in no draft.");
            }
        }
        $open = Drafts::open($person);
        $before = Drafts::acts($open);
        $outcome = $engine->rehearse($person, [...$before, ...$acts], [...Drafts::expects($open), ...$expects]);
        if ($outcome->blocked()) {
            return $outcome;
        }
        $keep = [];
        foreach ($acts as $i => $act) {
            [$relies, $touches] = Drafts::traces(new Outcome(array_slice($outcome->ledgers, 0, count($before) + $i + 1), false));
            $keep[] = new KeepEdit($act::key(), $act->toInput(), $relies, $touches, $act->title());
        }

        return $engine->commit($person, $keep);
    }
}
