<?php

declare(strict_types=1);

namespace HarborPost\Core\Shipping;

/** In which order servers are shipped to, from what has to be there before what. */
final class Order
{
    /**
     * Each as early as what comes before it lets it be. Where servers wait for each other in a ring, the ring is cut at the arrow that was
     * said last: what is left of it is kept.
     *
     * @param  list<string>  $servers
     * @param  list<array{string, string}>  $arrows  what is first, and what waits for it; those of others than $servers do not count
     * @return array<string, list<string>> server → those that it waits for itself, in an order in which nothing waits for what comes later
     */
    public static function of(array $servers, array $arrows): array
    {
        $behind = array_fill_keys($servers, []);
        foreach ($arrows as [$first, $then]) {
            if ($first !== $then && isset($behind[$first], $behind[$then]) && ! self::reaches($behind, $first, $then)) {
                in_array($first, $behind[$then], true) || $behind[$then][] = $first;
            }
        }
        $ordered = [];
        while (count($ordered) < count($behind)) {
            foreach ($behind as $server => $waits) {
                if (! isset($ordered[$server]) && array_diff($waits, array_map(strval(...), array_keys($ordered))) === []) {
                    $ordered[$server] = $waits;
                }
            }
        }

        return $ordered;
    }

    /**
     * Does one wait for another already, by way of others?
     *
     * @param  array<string, list<string>>  $behind
     */
    private static function reaches(array $behind, string $from, string $to): bool
    {
        $seen = [];
        $look = [$from];
        while ($look !== []) {
            $at = array_pop($look);
            if ($at === $to) {
                return true;
            }
            if (! isset($seen[$at])) {
                $seen[$at] = true;
                array_push($look, ...$behind[$at] ?? []);
            }
        }

        return false;
    }
}
