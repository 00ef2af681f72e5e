<?php

declare(strict_types=1);

namespace App\Acts\Ship;

use App\Acts\Engine\Act;
use App\Models\Person;
use App\Models\Role;

/** Acts on systems outside: a steward writes down where they are reached. */
abstract readonly class OnOutside extends Act
{
    public static function may(Person $person): bool
    {
        return $person->does(Role::Steward) && ! $person->isBound();
    }

    public static function governed(): bool
    {
        return false;
    }

    public function landing(): string
    {
        return at('ship.outside');
    }
}
