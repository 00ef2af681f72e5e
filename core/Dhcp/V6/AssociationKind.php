<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V6;

/** What an identity association binds (RFC 8415 §4.2); the value is its option's code. */
enum AssociationKind: int
{
    case Address = 3;
    case Temporary = 4;
    case Prefix = 25;

    public function label(): string
    {
        return match ($this) {
            self::Address => 'IA_NA',
            self::Temporary => 'IA_TA',
            self::Prefix => 'IA_PD',
        };
    }

    /** What a server says that has none to give. */
    public function none(): StatusCode
    {
        return $this === self::Prefix ? StatusCode::NoPrefixAvail : StatusCode::NoAddrsAvail;
    }
}
