<?php

declare(strict_types=1);

use HarborPost\Core\Net\Prefix;
use HarborPost\Core\Net\PrefixSet;
use HarborPost\Core\Planning\Blocks;
use HarborPost\Core\Planning\Fit;
use HarborPost\Core\Planning\Need;
use HarborPost\Core\Planning\NeedsTable;
use HarborPost\Core\Planning\Packing;
use HarborPost\Core\Planning\PlannedSubnet;
use HarborPost\Core\Planning\SitePlan;
use HarborPost\Core\Planning\Strategy;
use HarborPost\Core\Planning\VlanPattern;

/** @return list<Prefix> */
function prefixes(string ...$texts): array
{
    return array_map(Prefix::parse(...), array_values($texts));
}

/**
 * Is there any way at all to place blocks of these lengths in these open blocks? Tries every aligned place, one after the other.
 *
 * @param  list<Prefix>  $open
 * @param  list<int>  $lengths
 */
function placeable(array $open, array $lengths): bool
{
    if ($lengths === []) {
        return true;
    }
    $length = array_pop($lengths);
    foreach ($open as $i => $block) {
        if ($block->length > $length) {
            continue;
        }
        $rest = $open;
        unset($rest[$i]);
        for ($at = $block->first; $at !== null && $block->contains($at); $at = $at->in($length)->last()->next()) {
            $taken = $at->in($length);
            $left = PrefixSet::of($block)->difference(PrefixSet::of($taken))->prefixes();
            if (placeable([...array_values($rest), ...$left], $lengths)) {
                return true;
            }
        }
    }

    return false;
}

it('counts hosts at the end of the years', function (int $hosts, float $growth, int $years, int $then, int $length): void {
    $need = new Need('a', 'b', $hosts, $growth, $years);
    expect($need->hostsThen())->toBe($then)->and($need->length())->toBe($length);
})->with([
    [100, 0, 0, 100, 25], [100, 10, 3, 134, 24], [125, 0, 5, 125, 25], [126, 0, 0, 126, 24], [1, 0, 0, 1, 30], [2, 0, 0, 2, 29],
    [253, 0, 0, 253, 24], [254, 0, 0, 254, 23], [200, -10, 2, 162, 24], [500, 100, 1, 1000, 22],
]);

it('places everything whenever anybody could', function (): void {
    mt_srand(5);
    $fits = $fails = 0;
    for ($round = 0; $round < 400; $round++) {
        $whole = Prefix::parse('10.0.0.0/27');
        $used = [];
        for ($i = mt_rand(0, 3); $i > 0; $i--) {
            $used[] = $whole->first->plus(mt_rand(0, 31))?->in(mt_rand(29, 32));
        }
        $open = PrefixSet::of($whole)->difference(PrefixSet::of(...array_filter($used)))->prefixes();
        $lengths = array_map(fn (): int => mt_rand(28, 31), range(1, mt_rand(1, 5)));
        sort($lengths);
        $blocks = new Blocks($open);
        $taken = array_filter(array_map(fn (int $l): ?Prefix => $blocks->take($l), $lengths));
        $possible = placeable($open, array_reverse($lengths));
        expect(count($taken) === count($lengths))->toBe($possible);
        $possible ? $fits++ : $fails++;
        // What was taken is open, and no two overlap.
        $set = PrefixSet::of(...$taken);
        expect(PrefixSet::of(...$open)->contains($taken[0] ?? $open[0]))->toBeTrue()
            ->and(array_sum(array_map(fn ($r): int => $r->size()->toInt(), $set->ranges())))
            ->toBe(array_sum(array_map(fn (Prefix $p): int => $p->size()->toInt(), $taken)));
    }
    expect($fits)->toBeGreaterThan(50)->and($fails)->toBeGreaterThan(50);
});

it('gives each site one block that holds its subnets, apart from all others', function (Strategy $strategy): void {
    mt_srand(8);
    for ($round = 0; $round < 40; $round++) {
        $needs = [];
        for ($i = mt_rand(1, 40); $i > 0; $i--) {
            $needs[] = new Need(
                'site '.mt_rand(1, 6),
                "p$i",
                mt_rand(1, 900),
                mt_rand(0, 20),
                mt_rand(0, 5),
                mt_rand(0, 1) === 1,
                line: $i,
            );
        }
        $plan = Packing::plan(prefixes('10.0.0.0/12', '10.64.0.0/14', '2001:db8::/44'), $needs, $strategy);
        expect($plan->isWhole())->toBeTrue();
        $all = [];
        foreach ($plan->sites as $site) {
            foreach ($site->subnets as $subnet) {
                expect($site->prefix->contains($subnet->prefix))->toBeTrue()->and($subnet->prefix->length)
                    ->toBe($subnet->need->length())->and($subnet->spare())->toBeGreaterThanOrEqual(0)
                    ->and($subnet->prefix6 === null)->toBe(! $subnet->need->v6);
                if ($subnet->prefix6 !== null) {
                    expect($site->prefix6->contains($subnet->prefix6))->toBeTrue()->and($site->prefix6->length % 4)->toBe(0);
                }
            }
            $all[] = $site->prefix;
            $inner = array_map(fn (PlannedSubnet $s): Prefix => $s->prefix, $site->subnets);
            expect(array_sum(array_map(fn ($r): int => $r->size()->toInt(), PrefixSet::of(...$inner)->ranges())))->toBe($site->taken());
            // No smaller block would do, and with room to grow at least half stays open.
            $strategy === Strategy::Tight ? expect($site->headroom())->toBeLessThan(0.5) : null;
            $strategy === Strategy::Room ? expect($site->headroom())->toBeGreaterThanOrEqual(0.5) : null;
        }
        $strategy === Strategy::Fixed
            ? expect(array_unique(array_map(fn (SitePlan $s): int => $s->length, $plan->sites)))->toHaveCount(1)
            : null;
        expect(array_sum(array_map(fn ($r): int => $r->size()->toInt(), PrefixSet::of(...$all)->ranges())))->toBe($plan->totals()['held']);
        expect(array_sum(array_map(fn (SitePlan $s): int => count($s->subnets), $plan->sites)))->toBe(count($needs));
    }
})->with(Strategy::cases());

it('says what does not fit, by how much, and what would make it fit', function (): void {
    $needs = [new Need('A', 'x', 100), new Need('B', 'x', 100), new Need('C', 'x', 60)];
    $plan = Packing::plan(prefixes('192.0.2.0/25', '198.51.100.128/26'), $needs);
    expect($plan->isWhole())->toBeFalse()->and($plan->unplaced)
        ->toBe([['site' => 'B', 'family' => 4, 'length' => 25, 'largest' => 26]])->and($plan->wouldFit)
        ->toBe([4 => 25]);
    $again = Packing::plan(prefixes('192.0.2.0/25', '198.51.100.128/26', '203.0.113.0/25'), $needs);
    expect($again->isWhole())->toBeTrue();
    $none = Packing::plan([], [new Need('A', 'x', 100, v6: true)]);
    expect(array_column($none->unplaced, 'family'))->toBe([4, 6])->and($none->wouldFit)->toBe([4 => 25, 6 => 60])
        ->and($none->summary())->toBe([]);
});

it('always fits with the block that it says would make it fit', function (): void {
    mt_srand(21);
    for ($round = 0; $round < 100; $round++) {
        $needs = array_map(fn (int $i): Need => new Need("s$i", 'x', mt_rand(1, 500)), range(1, mt_rand(2, 12)));
        $plan = Packing::plan(prefixes('10.0.0.0/23'), $needs);
        if ($plan->isWhole()) {
            continue;
        }
        $length = $plan->wouldFit[4];
        expect(Packing::plan([...prefixes('10.0.0.0/23'), Prefix::parse("172.16.0.0/$length")], $needs)->isWhole())->toBeTrue()
            ->and(Packing::plan([...prefixes('10.0.0.0/23'), Prefix::parse('172.16.0.0/'.($length + 1))], $needs)->isWhole())->toBeFalse();
    }
});

it('summarises neighbouring sites', function (): void {
    $plan = Packing::plan(prefixes('10.0.0.0/8'), [new Need('A', 'x', 200), new Need('B', 'x', 200), new Need('C', 'x', 100)]);
    expect(array_map(strval(...), $plan->summary()))->toBe(['10.0.0.0/23', '10.0.2.0/25'])->and($plan->routes())
        ->toBe(3)->and($plan->totals())->toBe(['wanted' => 509, 'taken' => 640, 'held' => 640]);
});

it('chooses where room stays longest', function (): void {
    $blocks = new Blocks(prefixes('192.0.2.0/26', '198.51.100.0/24'));
    expect((string) $blocks->take(27, Fit::Room))->toBe('198.51.100.0/27')->and((string) $blocks->take(27, Fit::Best))
        ->toBe('198.51.100.32/27')->and((string) $blocks->take(26, Fit::Best))->toBe('192.0.2.0/26')
        ->and($blocks->largest())->toBe(25)->and($blocks->count(27))->toBe(6);
});

it('reads a table of needs as it is pasted', function (string $text, array $rows): void {
    $table = NeedsTable::read($text);
    expect($table->faults)->toBe([])
        ->and(array_map(fn (Need $n): array => [$n->site, $n->purpose, $n->hosts, $n->growth, $n->years, $n->v6, $n->vlan], $table->needs))
        ->toBe($rows);
})->with([
    'with a heading' => [
        "site,purpose,hosts,growth,years,v6,vlan\nTarbeck,Gates,40,10,3,yes,150\n",
        [['Tarbeck', 'Gates', 40, 10.0, 3, true, '150']],
    ],
    'other order, semicolons, a comma as decimal point, CRLF' => [
        "hosts;site;growth %;purpose\r\n1 200;Orrin;2,5;Voice\r\n",
        [['Orrin', 'Voice', 1200, 2.5, 0, false, '']],
    ],
    'without a heading, tabs, a comment and blanks' => [
        "# needs\n\nEbb\tCCTV\t12\t5%\t2\tno\t120+\n",
        [['Ebb', 'CCTV', 12, 5.0, 2, false, '120+']],
    ],
    'a byte order mark and quotes' => ["\xEF\xBB\xBFsite,hosts,purpose\n\"Quay, west\",7,x\n", [['Quay, west', 'x', 7, 0.0, 0, false, '']]],
]);

it('names the line and the column of each fault', function (): void {
    $table = NeedsTable::read("site,purpose,hosts,growth,years,v6,vlan,colour\n,x,0,900,99,perhaps,5000,red\nA,y,10,,,,,\n");
    expect(array_column($table->faults, 'column'))->toBe(['colour', 'site', 'hosts', 'growth', 'years', 'v6', 'vlan'])
        ->and($table->faults[1]['line'])->toBe(2)->and($table->needs)->toHaveCount(1);
});

it('chooses VLAN numbers by pattern', function (string $pattern, array $taken, ?int $next): void {
    expect(VlanPattern::tryParse($pattern)?->next(array_fill_keys($taken, true)))->toBe($next);
})->with([
    ['110', [], 110], ['110', [110], null], ['110+', [110, 111], 112], ['200-202', [200, 201, 202], null], ['200 - 202', [200], 201],
    ['4094+', [4094], null], ['0', [], null], ['4095', [], null], ['9-3', [], null], ['x', [], null],
]);
