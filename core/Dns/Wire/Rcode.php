<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Wire;

/** How an answer came out (RFC 1035 §4.1.1, RFC 2136 §2.2, RFC 6891 §9). */
enum Rcode: int
{
    case NoError = 0;
    case FormErr = 1;
    case ServFail = 2;
    case NxDomain = 3;
    case NotImp = 4;
    case Refused = 5;
    case YxDomain = 6;
    case YxRrset = 7;
    case NxRrset = 8;
    case NotAuth = 9;
    case NotZone = 10;
    case BadVers = 16;

    /** What it means, for people. */
    public function explained(): string
    {
        return match ($this) {
            self::NoError => 'answered',
            self::FormErr => 'the server could not read the question',
            self::ServFail => 'the server failed to find out',
            self::NxDomain => 'no such name',
            self::NotImp => 'the server does not do this',
            self::Refused => 'the server refuses to answer',
            self::NotAuth => 'the server has no authority for this zone',
            self::NotZone => 'the name is not in the zone',
            self::BadVers => 'the server does not know this EDNS version',
            default => 'a condition of an update did not hold',
        };
    }
}
