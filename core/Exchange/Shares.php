<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange;

use Brick\Math\BigInteger;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;

/**
 * A range divided between servers that lease it without talking to each other: contiguous parts, so that no address is given by two. The
 * first takes four fifths, the others share the rest: a server that is lost for a while leaves room on the other.
 */
final class Shares
{
    /** What a pool counts at most: more than any network leases. */
    public const MOST = 1 << 53;

    /**
     * @param  int<1, max>  $parts
     * @return list<AddressRange> in order, whole together; fewer than asked for when there are fewer addresses
     */
    public static function divide(AddressRange $range, int $parts, int $numerator = 4, int $denominator = 5): array
    {
        $size = $range->size();
        $shares = [];
        $at = $range->first;
        $left = $size;
        for ($part = 1; $part <= $parts && $left->isPositive(); $part++) {
            $rest = $parts - $part;
            $take = $rest === 0
                ? $left
                : BigInteger::max(1, $part === 1 ? $size->multipliedBy($numerator)->quotient($denominator) : $left->quotient($rest + 1));
            $take = BigInteger::min($take, BigInteger::max(1, $left->minus($rest)));
            $last = $at->plus($take->minus(1)) ?? $range->last;
            $shares[] = AddressRange::of($at, $last);
            $left = $left->minus($take);
            $next = $last->next();
            if ($next === null) {
                break;
            }
            $at = $next;
        }

        return $shares;
    }

    /**
     * Ranges that follow each other are one again, as they were before they were divided.
     *
     * @param  list<AddressRange>  $ranges
     * @return list<AddressRange> in order
     */
    public static function joined(array $ranges): array
    {
        usort($ranges, static fn (AddressRange $a, AddressRange $b): int => $a->compare($b));
        $joined = [];
        foreach ($ranges as $range) {
            $last = end($joined) ?: null;
            if ($last !== null && $last->last->next()?->equals($range->first) === true) {
                array_pop($joined);
                $range = AddressRange::of($last->first, $range->last);
            }
            $joined[] = $range;
        }

        return $joined;
    }

    /**
     * The stretches between the lowest and the highest address of ranges that none of them holds.
     *
     * @param  list<AddressRange>  $ranges
     * @return list<AddressRange>
     */
    public static function gaps(array $ranges): array
    {
        usort($ranges, static fn (AddressRange $a, AddressRange $b): int => $a->compare($b));
        $gaps = [];
        $end = null;
        foreach ($ranges as $range) {
            $next = $end?->next();
            if ($next !== null && strcmp($next->bytes, $range->first->bytes) < 0) {
                $gaps[] = AddressRange::of($next, $range->first->previous() ?? $next);
            }
            $end = $end === null || strcmp($range->last->bytes, $end->bytes) > 0 ? $range->last : $end;
        }

        return $gaps;
    }

    /**
     * Addresses in ranges that do not overlap, without those of the exclusions; of more than can be counted here, as many as can.
     *
     * @param  list<AddressRange>  $ranges
     * @param  list<AddressRange>  $exclusions  may overlap each other
     */
    public static function size(array $ranges, array $exclusions): int
    {
        usort($exclusions, static fn (AddressRange $a, AddressRange $b): int => $a->compare($b));
        $size = BigInteger::zero();
        foreach ($ranges as $range) {
            $size = $size->plus($range->size());
            $counted = null;
            foreach ($exclusions as $out) {
                $cut = self::overlap($range, $out, $counted);
                $size = $cut === null ? $size : $size->minus($cut->size());
                $counted = $cut->last ?? $counted;
            }
        }

        return BigInteger::min($size, self::MOST)->toInt();
    }

    /** What two ranges share behind an address. */
    private static function overlap(AddressRange $a, AddressRange $b, ?Address $behind): ?AddressRange
    {
        $first = $a->first->compare($b->first) >= 0 ? $a->first : $b->first;
        if ($behind !== null && $first->compare($behind) <= 0) {
            $first = $behind->next();
        }
        $last = $a->last->compare($b->last) <= 0 ? $a->last : $b->last;

        return $first === null || $first->compare($last) > 0 ? null : AddressRange::of($first, $last);
    }
}
