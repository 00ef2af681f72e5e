<?php

declare(strict_types=1);

namespace App\Actions\Name;

use App\Models\Person;
use App\Queries\NameRights;

/** Acts on records: by role, or by a right on names; on which of them is decided name by name. */
trait OnRecords
{
    public static function may(Person $person): bool
    {
        return $person->operates() || NameRights::any($person);
    }
}
