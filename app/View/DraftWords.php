<?php

declare(strict_types=1);

namespace App\View;

use App\Acts\Engine\Agreement;
use App\Models\Draft;
use App\Models\DraftState;
use App\Models\DraftVerdict;

/** Where a draft stands, in words for a list. */
final class DraftWords
{
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
            $agreed > 0 => "$agreed agreed",
            default => 'waits',
        };
    }
}
