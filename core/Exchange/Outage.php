<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange;

/**
 * How long the other servers of a scope get by when one is lost. They cannot renew what they did not lease (a share is its server's), so a
 * client of the lost server needs a new address when its lease ends; new clients arrive as they did. Addresses that are given back
 * meanwhile are not counted: the truth is no worse than this.
 */
final readonly class Outage
{
    /** Hours that are looked ahead; who gets by that long gets by. */
    private const HORIZON = 24 * 365;

    /**
     * @param  int  $free  addresses of the other servers that nobody has
     * @param  float  $arrivals  new clients an hour
     * @param  array<int, int>  $ending  hour from now, from 0 → leases of the lost server that end in it
     * @return ?float hours until a client finds no address; null when that is not to be seen
     */
    public static function hours(int $free, float $arrivals, array $ending): ?float
    {
        if ($free <= 0 && ($arrivals > 0 || $ending !== [])) {
            return 0.0;
        }
        $last = $ending === [] ? 0 : max(array_keys($ending)) + 1;
        $left = (float) $free;
        for ($hour = 0; $hour < $last; $hour++) {
            $needs = $arrivals + ($ending[$hour] ?? 0);
            if ($needs > $left) {
                return $hour + $left / $needs;
            }
            $left -= $needs;
        }
        $more = $arrivals > 0 ? $last + $left / $arrivals : null;

        return $more === null || $more > self::HORIZON ? null : $more;
    }
}
