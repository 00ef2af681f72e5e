<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Models\Person;
use App\Models\Role;

/** Acts on profiles of ports: who may, and where they lead. */
abstract readonly class OnProfiles extends Act
{
    public static function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('directory.ports');
    }
}
