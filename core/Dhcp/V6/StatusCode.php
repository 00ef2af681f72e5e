<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V6;

/** How a server judged a message or a part of it (RFC 8415 §21.13; of questions about leases RFC 5007 §4.1.3, RFC 5460 §5.3). */
enum StatusCode: int
{
    case Success = 0;
    case UnspecFail = 1;
    case NoAddrsAvail = 2;
    case NoBinding = 3;
    case NotOnLink = 4;
    case UseMulticast = 5;
    case NoPrefixAvail = 6;
    case UnknownQueryType = 7;
    case MalformedQuery = 8;
    case NotConfigured = 9;
    case NotAllowed = 10;
    case QueryTerminated = 11;

    /** The payload of a status code option. */
    public function with(string $text = ''): string
    {
        return pack('n', $this->value).$text;
    }

    public static function of(?string $payload): ?self
    {
        return $payload === null || strlen($payload) < 2 ? null : self::tryFrom((ord($payload[0]) << 8) + ord($payload[1]));
    }
}
