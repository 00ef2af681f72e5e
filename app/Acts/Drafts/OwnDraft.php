<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Act;
use App\Models\Person;

/** An act on one's own draft: open to everybody, since apply() finds the draft by its person. */
abstract readonly class OwnDraft extends Act
{
    public static function may(Person $person): bool
    {
        return true;
    }

    public function landing(): string
    {
        return '/ship/draft';
    }
}
