<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Models\Person;
use App\Models\Role;

/** What a steward does about people: at once, since who comes in, or a secret of theirs, stands in no draft that others read. */
trait OnPeople
{
    public static function may(Person $person): bool
    {
        return $person->does(Role::Steward) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('directory.list', 'people');
    }

    public static function governed(): bool
    {
        return false;
    }
}
