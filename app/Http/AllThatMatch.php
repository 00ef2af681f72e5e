<?php

declare(strict_types=1);

namespace App\Http;

use App\Acts\Engine\BadInput;
use App\Acts\Engine\Note;
use App\Acts\Engine\NoteVerdict;
use App\Queries\Matching;
use App\Queries\Reach;
use Illuminate\Http\Request;

/** A form that asks for all rows that a filter finds gets their ids, as if each had been picked: what follows shows every one. */
final class AllThatMatch
{
    /** The field of a form that says so: all[field of the act] = list:within:filter. */
    public const FIELD = 'all';

    /**
     * @param  array<mixed>  $input
     * @return array<mixed> with the ids in place of what was picked
     *
     * @throws BadInput nothing matches, or too much does
     */
    public static function in(Request $request, array $input, Reach $reach): array
    {
        foreach ((array) $request->input(self::FIELD, []) as $field => $said) {
            [$list, $within, $filter] = [...explode(':', is_string($said) ? $said : '', 3), '', ''];
            $ids = Matching::tryFrom($list)?->ids($within, $filter, $reach) ?? [];
            $of = $filter === '' ? '' : " \"$filter\"";
            match (true) {
                $ids === [] => throw self::bad($field, 'none-match', "Nothing matches$of any more", 'Look at the list again.'),
                count($ids) > Matching::AT_ONCE => throw self::bad(
                    $field, 'too-many', 'More than '.number_format(Matching::AT_ONCE)." match$of",
                    'Narrow the filter, and go on with what is left.',
                ),
                default => $input[$field] = $ids,
            };
        }

        return $input;
    }

    private static function bad(string|int $field, string $code, string $message, string $why): BadInput
    {
        return new BadInput([new Note(NoteVerdict::Blocked, $code, $message, $why, field: (string) $field)]);
    }
}
