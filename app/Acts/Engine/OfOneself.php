<?php

declare(strict_types=1);

namespace App\Acts\Engine;

use App\Models\Person;

/** What everybody may do about what is their own: no rule asks anybody else to agree, and it ends on one's own page. */
trait OfOneself
{
    public static function may(Person $person): bool
    {
        return true;
    }

    public static function governed(): bool
    {
        return false;
    }

    public function landing(): string
    {
        return at('me');
    }
}
