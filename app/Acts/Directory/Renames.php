<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Ledger;
use App\Models\Model;

/** Acts that may give an object of the directory another name: one name, one object of a kind. */
trait Renames
{
    private static function rename(Ledger $ledger, Model $row, ?string $name): void
    {
        if ($name === null) {
            return;
        }
        $name = trim($name);
        if ($name === '') {
            $ledger->refuse('no-name', 'A name is missing', field: 'name');
        }
        if ($row::query()->where('name', $name)->whereKeyNot($row->getKey())->exists()) {
            $ledger->refuse('name-taken', "\"$name\" exists already", field: 'name');
        }
        $row->setAttribute('name', $name);
    }

    /** What a form leaves alone, gives back, or chooses. */
    private static function chosen(?string $given, ?string $now): ?string
    {
        return $given === null ? $now : ($given === '' || $given === '-' ? null : $given);
    }
}
