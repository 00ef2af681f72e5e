<?php

declare(strict_types=1);

namespace App\Models;

/** What the next shipment of a zone brings to one of its keys; in force when every server has it. */
enum KeyWish: string
{
    case Nothing = '';
    /** it signs the zone */
    case Active = 'active';
    /** it stands among the keys, after its signatures */
    case Shown = 'shown';
    /** it stands among the keys no more, and its signatures stay */
    case Withdrawn = 'withdrawn';
    case Removed = 'removed';

    /** What is so when every server has what is shipped. */
    public function words(): string
    {
        return match ($this) {
            self::Nothing => 'stands in the zone',
            self::Active => 'signs',
            self::Shown => 'stands among the keys',
            self::Withdrawn => 'is out of the keys',
            self::Removed => 'is out of the zone',
        };
    }
}
