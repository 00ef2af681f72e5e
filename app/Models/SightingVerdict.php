<?php

declare(strict_types=1);

namespace App\Models;

/** What a scan saw of an address beside what the plan says of it. */
enum SightingVerdict: string
{
    case Agrees = 'agrees';
    case Unknown = 'unknown';
    case Silent = 'silent';
    case OtherMac = 'other-mac';
    case OtherName = 'other-name';
    case NoPointer = 'no-ptr';

    /** In the order in which one looks at them. */
    public const SHOWN = [self::Unknown, self::OtherMac, self::OtherName, self::NoPointer, self::Silent, self::Agrees];

    public function words(): string
    {
        return match ($this) {
            self::Unknown => 'unknown',
            self::OtherMac => 'other MAC',
            self::OtherName => 'other name',
            self::NoPointer => 'no PTR',
            self::Silent => 'silent',
            self::Agrees => 'agree',
        };
    }
}
