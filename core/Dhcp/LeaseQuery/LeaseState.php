<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\LeaseQuery;

/** What a server says of an address (RFC 6926 §6.2.7, option 156). */
enum LeaseState: int
{
    case Available = 1;
    case Active = 2;
    case Expired = 3;
    case Released = 4;
    case Abandoned = 5;
    case Reset = 6;
    case Remote = 7;
    case Transitioning = 8;

    /** The word that our own lists have for it. */
    public function word(): string
    {
        return match ($this) {
            self::Active, self::Remote => 'active',
            self::Released, self::Reset => 'released',
            self::Abandoned => 'declined',
            default => 'expired',
        };
    }

    public static function ofWord(string $word): self
    {
        return match ($word) {
            'active' => self::Active,
            'released' => self::Released,
            'declined' => self::Abandoned,
            default => self::Expired,
        };
    }
}
