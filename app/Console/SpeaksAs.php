<?php

declare(strict_types=1);

namespace App\Console;

use App\Models\Person;
use App\Queries\Reach;

/** A command that is carried out as somebody: with their rights and in their reach. As nobody, it speaks for who owns the machine. */
trait SpeaksAs
{
    /** @return Person|null|false null for nobody; false when nobody is called so, which was said */
    private function speaker(): Person|null|false
    {
        $name = $this->option('as');
        if (! is_string($name) || $name === '') {
            return null;
        }
        $person = Person::query()->where('sign_in', strtolower($name))->where('active', true)->first();
        if ($person === null) {
            $this->unusable("--as=$name: nobody signs in so");

            return false;
        }

        return $person;
    }

    private static function reachOf(?Person $person): Reach
    {
        return $person === null ? Reach::whole() : Reach::of($person);
    }
}
