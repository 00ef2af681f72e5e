<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

use HarborPost\Core\Net\Family;

/** From a number of hosts to a prefix length. */
final class SizeFromNeed
{
    /**
     * The longest prefix whose usable addresses hold the hosts and the gateway; IPv6 links are /64 (RFC 7421).
     *
     * @return int|null null when no prefix of the family is large enough
     */
    public static function length(Family $family, int $hosts, int $gateways = 1): ?int
    {
        if ($family === Family::V6) {
            return 64;
        }
        for ($length = 30; $length >= 0; $length--) {
            if ((1 << (32 - $length)) - 2 >= $hosts + $gateways) {
                return $length;
            }
        }

        return null;
    }
}
