<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\Bits;
use HarborPost\Core\Net\Prefix;

/**
 * The next addresses of a subnet that a host may have: never network, broadcast, subnet-router anycast or gateway, nothing
 * in a held or dynamic stretch, nothing in use.
 */
final class NextFree
{
    /**
     * @param  list<AddressRange>  $kept  held and dynamic stretches, in any order
     * @param  \Closure(Address $from, int $limit): list<Address>  $used  the addresses in use at or after $from, in order, at most $limit
     *     of them
     * @return list<Address> the lowest free ones, at most $count
     */
    public static function in(Prefix $subnet, ?Address $gateway, array $kept, \Closure $used, int $count = 1, ?Address $from = null): array
    {
        $usable = $subnet->usable();
        $kept = self::sorted($gateway === null ? $kept : [...$kept, AddressRange::of($gateway, $gateway)]);
        $cursor = ($from !== null && $usable->contains($from) ? $from : $usable->first)->bytes;
        $last = $usable->last->bytes;
        $limit = 512;
        $free = [];
        $at = 0;
        while (true) {
            $page = array_map(static fn (Address $a): string => $a->bytes, $used(Address::fromBytes($cursor), $limit));
            $horizon = count($page) < $limit ? $last : $page[count($page) - 1];
            $taken = array_fill_keys(array_map(bin2hex(...), $page), true);
            while (strcmp($cursor, $horizon) <= 0 && strcmp($cursor, $last) <= 0) {
                while (isset($kept[$at]) && strcmp($kept[$at]->last->bytes, $cursor) < 0) {
                    $at++;
                }
                if (isset($kept[$at]) && strcmp($kept[$at]->first->bytes, $cursor) <= 0) {
                    $step = Bits::next($kept[$at]->last->bytes);
                } else {
                    if (! isset($taken[bin2hex($cursor)])) {
                        $free[] = Address::fromBytes($cursor);
                        if (count($free) === $count) {
                            return $free;
                        }
                    }
                    $step = Bits::next($cursor);
                }
                if ($step === null) {
                    return $free;
                }
                $cursor = $step;
            }
            if (strcmp($cursor, $last) > 0) {
                return $free;
            }
            $limit = min(4096, $limit * 4);
        }
    }

    /**
     * The lowest stretch of so many neighbouring free addresses; empty when there is none.
     *
     * @param  list<AddressRange>  $kept  as for in()
     * @param  \Closure(Address $from, int $limit): list<Address>  $used  as for in()
     * @return list<Address>
     */
    public static function row(Prefix $subnet, ?Address $gateway, array $kept, \Closure $used, int $count): array
    {
        $row = [];
        $from = null;
        do {
            $free = self::in($subnet, $gateway, $kept, $used, max(256, 2 * $count), $from);
            foreach ($free as $address) {
                $last = $row === [] ? null : $row[count($row) - 1]->next();
                $row = $last !== null && $last->equals($address) ? [...$row, $address] : [$address];
                if (count($row) === $count) {
                    return $row;
                }
            }
            $from = $free === [] ? null : $free[count($free) - 1]->next();
        } while ($from !== null && $subnet->usable()->contains($from));

        return [];
    }

    /**
     * @param  list<AddressRange>  $ranges
     * @return list<AddressRange>
     */
    private static function sorted(array $ranges): array
    {
        usort($ranges, static fn (AddressRange $a, AddressRange $b): int => $a->compare($b));

        return $ranges;
    }
}
