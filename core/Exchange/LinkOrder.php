<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange;

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;

/**
 * Which of the subnets of one link a client is served from. RFC 2131 §4.3.1 says in which order an address is looked for in the subnet of
 * the relay; where the link carries several subnets the same order goes over all of them: whoever holds, or asks for, an address of another
 * subnet there keeps it, and a subnet that is full is followed by the next.
 */
final class LinkOrder
{
    /**
     * @template T of object
     *
     * @param  list<T>  $scopes  one server's scopes on the link, that of the relay first
     * @param  \Closure(T): bool  $reserved  an address of it is reserved for the client
     * @param  \Closure(T): bool  $held  the client has, or had, an address of it
     * @param  \Closure(T): bool  $asked  the client asks for an address of it
     * @return list<T> in the order in which an address is looked for
     */
    public static function of(array $scopes, \Closure $reserved, \Closure $held, \Closure $asked): array
    {
        $ranked = [];
        foreach ($scopes as $scope) {
            $ranked[] = [match (true) {
                $reserved($scope) => 0,
                $held($scope) => 1,
                $asked($scope) => 2,
                default => 3,
            }, $scope];
        }
        // Sorting keeps the order of equals.
        usort($ranked, static fn (array $a, array $b): int => $a[0] <=> $b[0]);

        return array_column($ranked, 1);
    }

    /**
     * The subnet of the link in which an address lies; null when it is not on the link.
     *
     * @template T of object
     *
     * @param  list<T>  $scopes
     * @param  \Closure(T): Prefix  $subnet
     * @return ?T
     */
    public static function at(Address $address, array $scopes, \Closure $subnet): ?object
    {
        foreach ($scopes as $scope) {
            if ($subnet($scope)->contains($address)) {
                return $scope;
            }
        }

        return null;
    }
}
