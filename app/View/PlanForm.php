<?php

declare(strict_types=1);

namespace App\View;

use HarborPost\Core\Net\Prefix;
use HarborPost\Core\Planning\AddressPlan;
use HarborPost\Core\Planning\PlannedSubnet;
use HarborPost\Core\Planning\SitePlan;

/** A computed address plan as data for programs and as lines for people. */
final class PlanForm
{
    /**
     * @param  list<Prefix>  $in
     * @return array{strategy: string, in: list<string>, sites: list<array<string, mixed>>, summary: list<string>, routes: int,
     *     totals: array{wanted: int, taken: int, held: int}, unplaced: list<array{site: string, family: int, length: int, largest: ?int}>,
     *     would_fit: array<int, int>}
     */
    public static function of(AddressPlan $plan, array $in): array
    {
        return [
            'strategy' => $plan->strategy->value, 'in' => array_map(strval(...), $in),
            'sites' => array_map(fn (SitePlan $s): array => [
                'site' => $s->site, 'prefix' => self::text($s->prefix), 'prefix6' => self::text($s->prefix6),
                'headroom' => round($s->headroom(), 4),
                'subnets' => array_map(
                    fn (PlannedSubnet $p): array => [
                        'purpose' => $p->need->purpose, 'hosts' => $p->need->hostsThen(), 'prefix' => self::text($p->prefix),
                        'prefix6' => self::text($p->prefix6), 'spare' => $p->spare(), 'vlan' => $p->need->vlan,
                    ],
                    $s->subnets,
                ),
            ], $plan->sites),
            'summary' => array_map(strval(...), $plan->summary()), 'routes' => $plan->routes(), 'totals' => $plan->totals(),
            'unplaced' => $plan->unplaced, 'would_fit' => $plan->wouldFit,
        ];
    }

    /**
     * @param  array<string, mixed>  $form  what of() gave
     * @return list<string>
     */
    public static function lines(array $form): array
    {
        $lines = [];
        foreach ($form['sites'] as $site) {
            $lines[] = sprintf(
                '%-20s %s%s  %d %% open',
                $site['site'],
                $site['prefix'] ?? 'no place',
                $site['prefix6'] === null ? '' : " {$site['prefix6']}",
                round(100 * $site['headroom']),
            );
            foreach ($site['subnets'] as $subnet) {
                $lines[] = sprintf(
                    '  %-18s %-18s %s hosts%s',
                    $subnet['purpose'],
                    $subnet['prefix'] ?? '-',
                    number_format($subnet['hosts']),
                    $subnet['prefix6'] === null ? '' : ", {$subnet['prefix6']}",
                );
            }
        }
        $lines[] = 'routes: '.implode(', ', $form['summary']);

        return [...$lines, ...self::shortage($form)];
    }

    /**
     * @param  array<string, mixed>  $form
     * @return list<string> what did not fit, by how much, and what would make it fit
     */
    public static function shortage(array $form): array
    {
        $lines = [];
        foreach ($form['unplaced'] as $one) {
            $lines[] = "{$one['site']} needs an IPv{$one['family']} /{$one['length']}; "
                .($one['largest'] === null ? 'nothing is open any more' : "the largest still open is a /{$one['largest']}");
        }
        foreach ($form['would_fit'] as $family => $length) {
            $lines[] = "one further open IPv$family /$length would hold all of these";
        }

        return $lines;
    }

    private static function text(?Prefix $prefix): ?string
    {
        return $prefix === null ? null : (string) $prefix;
    }
}
