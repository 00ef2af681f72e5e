<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

use HarborPost\Core\Net\Prefix;
use HarborPost\Core\Net\PrefixSet;

/**
 * The fewest prefixes that cover a set, exactly or with a tolerance: addresses that are covered although they are not in it.
 *
 * With a tolerance the answer is optimal: for every node of the tree of the set's prefixes, the least surplus for each number
 * of prefixes is computed from its two halves.
 */
final readonly class Summary
{
    /** Beyond so many prefixes the exact answer of each family is given whatever the tolerance. */
    public const MOST = 800;

    /** @param  list<Prefix>  $prefixes  sorted */
    private function __construct(
        public array $prefixes,
        /** covered without being asked for, as a share of what was asked for */
        public float $surplus,
    ) {
    }

    /** @param  float  $tolerance  surplus allowed, as a share of the addresses of the set: 0.25 is a quarter more */
    public static function of(PrefixSet $set, float $tolerance = 0.0): self
    {
        $found = [];
        $asked = $extra = 0.0;
        foreach ([4, 6] as $family) {
            $exact = array_values(array_filter($set->prefixes(), static fn (Prefix $p): bool => $p->family()->value === $family));
            if ($exact === []) {
                continue;
            }
            $size = self::weight($exact);
            $asked = $family === 4 || $asked === 0.0 ? $size : $asked;
            if ($tolerance <= 0 || count($exact) > self::MOST || count($exact) === 1) {
                $found = [...$found, ...$exact];

                continue;
            }
            $table = self::table($exact);
            foreach ($table as [$surplus, $prefixes]) {
                if ($surplus <= $tolerance * $size) {
                    $found = [...$found, ...$prefixes];
                    $extra += $surplus / $size;
                    break;
                }
            }
        }

        return new self($found, $extra);
    }

    /**
     * @param  non-empty-list<Prefix>  $exact  disjoint, sorted, none the sibling of another
     * @return array<int, array{float, list<Prefix>}> number of prefixes, from 1 → least surplus, and which they are
     */
    private static function table(array $exact): array
    {
        if (count($exact) === 1) {
            return [1 => [0.0, $exact]];
        }
        $whole = self::around($exact[0], $exact[count($exact) - 1]);
        $half = $whole->halves()[1] ?? $whole;
        $split = 0;
        while ($split < count($exact) && $exact[$split]->compare($half) < 0 && ! $half->contains($exact[$split])) {
            $split++;
        }
        $left = array_slice($exact, 0, $split);
        $right = array_slice($exact, $split);
        if ($left === [] || $right === []) {
            return [1 => [0.0, $exact]];
        }
        $low = self::table($left);
        $high = self::table($right);
        $table = [1 => [self::weight([$whole]) - self::weight($exact), [$whole]]];
        $best = [];
        foreach ($low as $i => [$a]) {
            foreach ($high as $j => [$b]) {
                if (! isset($best[$i + $j]) || $a + $b < $best[$i + $j][0]) {
                    $best[$i + $j] = [$a + $b, $i, $j];
                }
            }
        }
        foreach ($best as $count => [$surplus, $i, $j]) {
            $table[$count] = [$surplus, [...$low[$i][1], ...$high[$j][1]]];
        }
        ksort($table);

        return $table;
    }

    private static function around(Prefix $first, Prefix $last): Prefix
    {
        $length = min($first->length, $last->length);
        for (; ! $first->first->in($length)->contains($last); $length--);

        return $first->first->in($length);
    }

    /** @param  list<Prefix>  $prefixes */
    private static function weight(array $prefixes): float
    {
        return array_sum(array_map(static fn (Prefix $p): float => 2.0 ** ($p->family()->bits() - $p->length), $prefixes));
    }
}
