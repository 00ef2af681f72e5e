<?php

declare(strict_types=1);

namespace App\View;

use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Net\PrefixSet;
use HarborPost\Core\Planning\AddressPlan;
use HarborPost\Core\Planning\SitePlan;

/** A computed plan drawn to scale: the sites in the prefix that holds them, and the subnets in each site's block. */
final class PlanStrip
{
    /**
     * @param  list<Net>  $open  what is open there before the plan
     * @return list<Block>
     */
    public static function sites(Net $whole, AddressPlan $plan, array $open): array
    {
        $blocks = [];
        foreach ($plan->sites as $site) {
            $net = $whole->family()->value === 4 ? $site->prefix : $site->prefix6;
            if ($net !== null && $whole->contains($net)) {
                $taken = $whole->family()->value === 4 ? 100 * (1 - $site->headroom()) : null;
                $blocks[] = self::block(
                    $whole,
                    $net,
                    $site->site,
                    $taken,
                    $taken === null ? '' : round($taken).'% in subnets',
                    'planned drafted',
                );
            }
        }
        // What the plan leaves open: the open blocks less what it takes.
        foreach (
            PrefixSet::of(...array_filter($open, fn (Net $n): bool => $whole->contains($n)))
                ->difference(
                    PrefixSet::of(
                        ...array_filter(
                            array_map(fn (SitePlan $s): ?Net => $whole->family()->value === 4 ? $s->prefix : $s->prefix6, $plan->sites),
                        ),
                    ),
                )
                ->prefixes() as $left
        ) {
            [$x, $width] = Ruler::place($whole, $left);
            $width < 0.3 ?: $blocks[] = new Block(
                'open',
                $x,
                $width,
                'open-water',
                "$left, open",
                "/$left->length open",
                (string) $left,
                "/$left->length",
                fill: 'waves',
            );
        }

        return $blocks;
    }

    /** @return list<Block> */
    public static function subnets(SitePlan $site): array
    {
        $blocks = [];
        foreach ($site->prefix === null ? [] : $site->subnets as $subnet) {
            if ($subnet->prefix !== null && $site->prefix !== null) {
                $usable = $subnet->prefix->usable()->size()->toInt();
                $level = 100 * min(1, ($subnet->need->hosts + 1) / max(1, $usable));
                $blocks[] = self::block(
                    $site->prefix,
                    $subnet->prefix,
                    $subnet->need->purpose ?: (string) $subnet->prefix,
                    $level,
                    '',
                    'planned',
                );
            }
        }

        return $blocks;
    }

    private static function block(Net $whole, Net $net, string $name, ?float $level, string $figure, string $look): Block
    {
        [$x, $width] = Ruler::place($whole, $net);

        return new Block('prefix', $x, max($width, 0.12), $look, "$name $net", $name, (string) $net, "/$net->length", $level, $figure);
    }
}
