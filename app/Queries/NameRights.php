<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Ability;
use App\Models\NameGrant;
use App\Models\Person;
use App\Models\Power;
use App\Models\Zone;
use HarborPost\Core\Dns\Name;
use Illuminate\Database\Eloquent\Collection;

/** Who may edit which names: by role within reach, or by a right on a zone, on one name, or on a name and what is below it. */
final class NameRights
{
    /** Has the person any right on names that their roles do not give? */
    public static function any(Person $person): bool
    {
        return Granted::any($person, Ability::Names) || NameGrant::query()->where('person_id', $person->id)->exists();
    }

    /** @param  ?int  $type  of a record; null asks for records of every type */
    public static function may(Person $person, Zone $zone, ?Name $owner, ?int $type = null): bool
    {
        $person = RoleLimits::narrow($person, Power::Names);
        if ($person->operates() && (! $person->isBound() || $zone->tenant_id === $person->tenant_id)) {
            return true;
        }
        if (Granted::coversZone($person, Ability::Names, $zone)) {
            return true;
        }
        foreach (self::of($person, $zone) as $grant) {
            if ($grant->type !== null && $grant->type !== $type) {
                continue;
            }
            $name = $grant->owner === null ? null : Name::parse($grant->owner);
            if ($name === null || $owner !== null && ($owner->equals($name) || $grant->below && $owner->isIn($name))) {
                return true;
            }
        }

        return false;
    }

    /** May the person edit anything in the zone? */
    public static function some(Person $person, Zone $zone): bool
    {
        return self::may($person, $zone, null) || self::of($person, $zone)->isNotEmpty();
    }

    /** @return Collection<int, NameGrant> */
    private static function of(Person $person, Zone $zone): Collection
    {
        return NameGrant::query()->where('person_id', $person->id)->where('zone_id', $zone->id)->get();
    }
}
