<?php

declare(strict_types=1);

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\Prefix;
use HarborPost\Core\Net\PrefixSet;
use HarborPost\Core\Planning\Fit;
use HarborPost\Core\Planning\NextFree;
use HarborPost\Core\Planning\OpenSpace;
use HarborPost\Core\Planning\Run;
use HarborPost\Core\Planning\RunKind;
use HarborPost\Core\Planning\Runs;
use HarborPost\Core\Planning\SizeFromNeed;

$texts = fn (array $prefixes): array => array_map(strval(...), $prefixes);

it('is the difference of sets, for any used prefixes', function (): void {
    mt_srand(9);
    for ($i = 0; $i < 200; $i++) {
        $whole = Prefix::parse('10.0.0.0/20');
        $used = array_map(
            fn (): Prefix => Address::parse('9.255.255.0')->plus(mt_rand(0, 5000))->in(mt_rand(18, 32)),
            range(1, mt_rand(0, 12) + 1),
        );
        $open = OpenSpace::in($whole, $used);
        expect(PrefixSet::of(...$open->blocks())->equals(PrefixSet::of($whole)->difference(PrefixSet::of(...$used))))->toBeTrue()
            ->and(array_map(strval(...), $open->blocks()))->toBe(array_map(strval(...), PrefixSet::of(...$open->blocks())->prefixes()));
    }
});

it('chooses by first, best and room to grow', function (string $fit, array $wanted) use ($texts): void {
    $open = OpenSpace::in(
        Prefix::parse('10.0.0.0/22'),
        [Prefix::parse('10.0.0.0/25'), Prefix::parse('10.0.1.0/26'), Prefix::parse('10.0.1.128/25')],
    );
    expect($texts($open->several(27, 3, Fit::from($fit))))->toBe($wanted);
})->with([
    ['first', ['10.0.0.128/27', '10.0.0.160/27', '10.0.0.192/27']],
    ['best', ['10.0.1.64/27', '10.0.1.96/27', '10.0.0.128/27']],
    ['room', ['10.0.2.0/27', '10.0.3.0/27', '10.0.0.128/27']],
]);

it('never hands out the same place twice and stops when nothing is left', function (): void {
    $open = OpenSpace::in(Prefix::parse('10.0.0.0/24'), [Prefix::parse('10.0.0.64/26')]);
    $all = $open->several(28, 100);
    expect($all)->toHaveCount(12)->and(PrefixSet::of(...$all)->equals(PrefixSet::of(...$open->blocks())))->toBeTrue()
        ->and($open->next(23))->toBeNull();
});

it('works for IPv6', function () use ($texts): void {
    expect($texts(OpenSpace::in(Prefix::parse('2001:db8::/60'), [Prefix::parse('2001:db8:0:4::/62')])->blocks()))->toBe([
        '2001:db8::/62',
        '2001:db8:0:8::/61',
    ]);
});

it('finds the next free address by the rules', function (): void {
    $used = array_map(Address::parse(...), ['192.0.2.2', '192.0.2.4']);
    $lookUp = fn (Address $from, int $limit): array => array_slice(
        array_values(array_filter($used, fn (Address $a): bool => $a->compare($from) >= 0)),
        0,
        $limit,
    );
    $free = NextFree::in(
        Prefix::parse('192.0.2.0/28'),
        Address::parse('192.0.2.1'),
        [AddressRange::parse('192.0.2.5-192.0.2.9')],
        $lookUp,
        10,
    );
    expect(array_map(strval(...), $free))->toBe(['192.0.2.3', '192.0.2.10', '192.0.2.11', '192.0.2.12', '192.0.2.13', '192.0.2.14']);
});

it('finds the free address behind thousands of used ones, page by page', function (): void {
    $subnet = Prefix::parse('10.0.0.0/16');
    $pages = 0;
    $lookUp = function (Address $from, int $limit) use (&$pages): array {
        $pages++;
        $start = $from->minus(Address::parse('10.0.0.0'))->toInt();

        return array_map(fn (int $i): Address => Address::parse('10.0.0.0')->plus($i), range($start, min(50000, $start + $limit - 1)));
    };
    expect((string) NextFree::in($subnet, null, [], $lookUp)[0])->toBe('10.0.195.81')->and($pages)->toBeLessThan(20);
});

it('gives every address exactly one run', function (): void {
    mt_srand(10);
    for ($i = 0; $i < 100; $i++) {
        $subnet = Prefix::parse('192.0.2.0/26');
        $assigned = array_map(fn (): Address => Address::parse('192.0.2.0')->plus(mt_rand(1, 62)), range(1, mt_rand(1, 20)));
        $a = mt_rand(1, 40);
        $runs = Runs::of(
            $subnet,
            Address::parse('192.0.2.1'),
            $assigned,
            [[
                AddressRange::of(Address::parse('192.0.2.0')->plus($a), Address::parse('192.0.2.0')->plus($a + mt_rand(0, 20))),
                RunKind::Dynamic,
                null,
            ]],
        );
        expect(array_sum(array_map(fn (Run $r): int => $r->range->size()->toInt(), $runs)))->toBe(64);
        foreach ($runs as $j => $run) {
            expect($j === 0 || $runs[$j - 1]->range->last->next()->equals($run->range->first))->toBeTrue()
                ->and($j === 0 || $runs[$j - 1]->kind !== $run->kind)->toBeTrue();
        }
    }
});

it('counts what is in use in each run', function (): void {
    $runs = Runs::of(
        Prefix::parse('192.0.2.0/28'),
        Address::parse('192.0.2.1'),
        [Address::parse('192.0.2.2'), Address::parse('192.0.2.3')],
        [[AddressRange::parse('192.0.2.8-192.0.2.11'), RunKind::Dynamic, null]],
        [Address::parse('192.0.2.9')],
    );
    expect(array_map(fn (Run $r): string => "$r->range {$r->kind->value} $r->inUse", $runs))->toBe([
        '192.0.2.0 network 0', '192.0.2.1 gateway 1', '192.0.2.2-192.0.2.3 assigned 2', '192.0.2.4-192.0.2.7 open 0',
        '192.0.2.8-192.0.2.11 dynamic 1', '192.0.2.12-192.0.2.14 open 0', '192.0.2.15 broadcast 0',
    ]);
});

it('sizes from need', function (Family $family, int $hosts, ?int $length): void {
    expect(SizeFromNeed::length($family, $hosts))->toBe($length);
})->with([[Family::V4, 900, 22], [Family::V4, 253, 24], [Family::V4, 254, 23], [Family::V4, 1, 30], [Family::V6, 10, 64]]);
