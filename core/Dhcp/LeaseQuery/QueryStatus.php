<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\LeaseQuery;

/** How a bulk query ended (RFC 6926 §6.2.2, option 151). */
enum QueryStatus: int
{
    case Success = 0;
    case UnspecifiedFailure = 1;
    case Terminated = 2;
    case Malformed = 3;
    case NotAllowed = 4;

    public function words(): string
    {
        return match ($this) {
            self::Success => 'it told all of it',
            self::UnspecifiedFailure => 'it failed, and says not why',
            self::Terminated => 'it ended the answer before its end',
            self::Malformed => 'it does not understand the question',
            self::NotAllowed => 'it is not allowed to ask',
        };
    }
}
