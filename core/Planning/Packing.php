<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\Prefix;

/**
 * A whole address plan from a table of needs: each site gets one block that summarises it, its subnets are aligned in it.
 *
 * Blocks are taken from the largest to the smallest, each from the smallest open block that holds it. For sizes that are powers of
 * two this places everything whenever it can be placed at all, in O(n log n). IPv6 subnets are /64 (RFC 7421) in blocks that end
 * on a nibble, so that reverse zones are cut cleanly (RFC 3596 §2.5).
 */
final class Packing
{
    /**
     * @param  list<Prefix>  $open  open blocks of both families
     * @param  list<Need>  $needs
     */
    public static function plan(array $open, array $needs, Strategy $strategy = Strategy::Tight): AddressPlan
    {
        $bySite = [];
        foreach ($needs as $need) {
            $bySite[$need->site][] = $need;
        }
        $lengths = array_map(static fn (array $site): int => self::length($site, $strategy), $bySite);
        $lengths6 = array_filter(array_map(static fn (array $site): ?int => self::length6($site, $strategy), $bySite), is_int(...));
        if ($strategy === Strategy::Fixed && $lengths !== []) {
            $lengths = array_fill_keys(array_keys($lengths), min($lengths));
            $lengths6 = $lengths6 === [] ? [] : array_fill_keys(array_keys($lengths6), min($lengths6));
        }
        $unplaced = $wouldFit = [];
        $places = self::place($open, $lengths, Family::V4, $unplaced, $wouldFit);
        $places6 = self::place($open, $lengths6, Family::V6, $unplaced, $wouldFit);
        $sites = [];
        foreach ($bySite as $site => $list) {
            $site = (string) $site;
            $sites[] = new SitePlan(
                $site,
                $lengths[$site],
                $places[$site] ?? null,
                self::inside($list, $places[$site] ?? null, $places6[$site] ?? null, $strategy),
                $lengths6[$site] ?? null,
                $places6[$site] ?? null,
            );
        }

        return new AddressPlan($strategy, $sites, $unplaced, $wouldFit);
    }

    /**
     * @param  list<Prefix>  $open
     * @param  array<string, int>  $lengths  site → length
     * @param  list<array{site: string, family: int, length: int, largest: ?int}>  $unplaced
     * @param  array<int, int>  $wouldFit
     * @return array<string, Prefix>
     */
    private static function place(array $open, array $lengths, Family $family, array &$unplaced, array &$wouldFit): array
    {
        $blocks = new Blocks(array_filter($open, static fn (Prefix $p): bool => $p->family() === $family));
        // Stable: sites of one size stay in the order of the table.
        asort($lengths);
        $places = [];
        $short = [];
        foreach ($lengths as $site => $length) {
            $place = $blocks->take($length);
            if ($place !== null) {
                $places[$site] = $place;

                continue;
            }
            $unplaced[] = ['site' => (string) $site, 'family' => $family->value, 'length' => $length, 'largest' => $blocks->largest()];
            $short[] = $length;
        }
        if ($short !== []) {
            $wouldFit[$family->value] = self::holding($short, $family->bits());
        }

        return $places;
    }

    /**
     * @param  list<Need>  $needs
     * @return list<PlannedSubnet>
     */
    private static function inside(array $needs, ?Prefix $block, ?Prefix $block6, Strategy $strategy): array
    {
        $order = array_keys($needs);
        usort($order, static fn (int $a, int $b): int => $needs[$a]->length() <=> $needs[$b]->length() ?: $a <=> $b);
        $blocks = new Blocks($block === null ? [] : [$block]);
        $blocks6 = new Blocks($block6 === null ? [] : [$block6]);
        $subnets = [];
        foreach ($order as $at) {
            $need = $needs[$at];
            $fit = $strategy === Strategy::Room ? Fit::Room : Fit::Best;
            $subnets[] = new PlannedSubnet($need, $blocks->take($need->length(), $fit), $need->v6 ? $blocks6->take(64) : null);
        }
        usort(
            $subnets,
            static fn (PlannedSubnet $a, PlannedSubnet $b): int => $a->prefix === null
                || $b->prefix === null ? $a->need->line <=> $b->need->line : $a->prefix->compare($b->prefix),
        );

        return $subnets;
    }

    /** @param  non-empty-list<Need>  $needs */
    private static function length(array $needs, Strategy $strategy): int
    {
        $lengths = array_map(static fn (Need $n): int => $n->length(), $needs);

        return self::holding($lengths, 32, $strategy === Strategy::Room ? 2 : 1);
    }

    /** @param  list<Need>  $needs */
    private static function length6(array $needs, Strategy $strategy): ?int
    {
        $count = count(array_filter($needs, static fn (Need $n): bool => $n->v6)) * ($strategy === Strategy::Room ? 2 : 1);
        if ($count === 0) {
            return null;
        }
        for ($length = 60; 1 << (64 - $length) < $count; $length -= 4);

        return $length;
    }

    /**
     * The longest prefix that holds blocks of these lengths so many times over.
     *
     * @param  non-empty-list<int>  $lengths
     */
    private static function holding(array $lengths, int $bits, int $times = 1): int
    {
        // Counted in units of the smallest, which stays small enough for an integer.
        $unit = max($lengths);
        $sum = 0.0;
        foreach ($lengths as $length) {
            $sum += 2.0 ** ($unit - $length);
        }
        $sum *= $times;
        for ($length = $unit; $length > 0 && 2.0 ** ($unit - $length) < $sum; $length--);

        return min($length, $bits);
    }
}
