<?php

declare(strict_types=1);

namespace App\Models;

/** What a grant lets somebody do at its place; to see the place is part of each. */
enum Ability: string
{
    case Look = 'look';
    case Hosts = 'hosts';
    case Space = 'space';
    case Leases = 'leases';
    case Names = 'names';

    /** In a sentence: "may …". */
    public function words(): string
    {
        return match ($this) {
            self::Look => 'look',
            self::Hosts => 'place hosts',
            self::Space => 'plan space',
            self::Leases => 'reserve addresses',
            self::Names => 'edit names',
        };
    }

    public function explained(): string
    {
        return match ($this) {
            self::Look => 'sees what is there, and writes nothing',
            self::Hosts => 'places, changes and releases hosts, holds runs',
            self::Space => 'carves, changes and gives back prefixes inside, and places hosts',
            self::Leases => 'keeps reservations in scopes that are there',
            self::Names => 'adds, changes and removes records of zones',
        };
    }

    public function includes(self $other): bool
    {
        return $this === $other || $other === self::Look || $this === self::Space && $other === self::Hosts;
    }
}
