<?php

declare(strict_types=1);

use HarborPost\Core\Exchange\LeaseAdvice;
use HarborPost\Core\Exchange\Outage;
use HarborPost\Core\Exchange\Renewals;
use HarborPost\Core\Exchange\Shares;
use HarborPost\Core\Net\AddressRange;

it('tells how long the others get by', function (int $free, float $arrivals, array $ending, ?float $hours): void {
    $is = Outage::hours($free, $arrivals, $ending);
    $hours === null ? expect($is)->toBeNull() : expect($is)->toEqualWithDelta($hours, 1e-9);
})->with([
    'nobody comes and nobody leaves' => [10, 0.0, [], null],
    'two an hour for ten addresses' => [10, 2.0, [], 5.0],
    'six leases end in the first hour, ten addresses' => [10, 0.0, [0 => 6], null],
    'twenty leases end in the first hour' => [10, 0.0, [0 => 20], 0.5],
    'four end in each of three hours' => [10, 0.0, [0 => 4, 1 => 4, 2 => 4], 2.5],
    'they end later' => [10, 1.0, [3 => 8], 3 + 7 / 9],
    'what is left goes to those who come' => [10, 1.0, [0 => 4], 6.0],
    'nothing is free' => [0, 1.0, [], 0.0],
    'nothing is free, and leases end' => [0, 0.0, [5 => 1], 0.0],
    'nothing is free, and nobody needs any' => [0, 0.0, [], null],
    'it holds over a year' => [10_000, 1.0, [], null],
]);

it('never says less when more is free, nor more when more come', function (): void {
    mt_srand(12);
    for ($i = 0; $i < 300; $i++) {
        $ending = [];
        for ($h = 0; $h < 8; $h++) {
            $ending[$h] = mt_rand(0, 9);
        }
        $free = mt_rand(0, 40);
        $arrivals = mt_rand(0, 30) / 10;
        $is = Outage::hours($free, $arrivals, $ending) ?? INF;
        expect(Outage::hours($free + 1, $arrivals, $ending) ?? INF)->toBeGreaterThanOrEqual($is)
            ->and(Outage::hours($free, $arrivals + 0.5, $ending) ?? INF)->toBeLessThanOrEqual($is);
    }
});

it('counts addresses of ranges without those that are kept out', function (array $ranges, array $out, int $size): void {
    expect(Shares::size(array_map(AddressRange::parse(...), $ranges), array_map(AddressRange::parse(...), $out)))->toBe($size);
})->with([
    'no exclusion' => [['192.0.2.10-192.0.2.19'], [], 10],
    'one inside' => [['192.0.2.10-192.0.2.19'], ['192.0.2.12-192.0.2.13'], 8],
    'across its end' => [['192.0.2.10-192.0.2.19'], ['192.0.2.18-192.0.2.30'], 8],
    'outside' => [['192.0.2.10-192.0.2.19'], ['192.0.2.30-192.0.2.40'], 10],
    'two that overlap count once' => [['192.0.2.10-192.0.2.19'], ['192.0.2.12-192.0.2.15', '192.0.2.14-192.0.2.16'], 5],
    'one inside another' => [['192.0.2.10-192.0.2.19'], ['192.0.2.11-192.0.2.18', '192.0.2.12-192.0.2.13'], 2],
    'across two ranges' => [['192.0.2.10-192.0.2.19', '192.0.2.30-192.0.2.39'], ['192.0.2.15-192.0.2.34'], 10],
    'everything' => [['192.0.2.10-192.0.2.19'], ['192.0.2.0-192.0.2.255'], 0],
]);

it('joins shares that follow each other, and divides them at any seam', function (): void {
    $whole = AddressRange::parse('192.0.2.10-192.0.2.109');
    foreach ([1, 20, 50, 80, 99] as $percent) {
        $shares = Shares::divide($whole, 2, $percent, 100);
        expect($shares)->toHaveCount(2)
            ->and($shares[0]->size()->toInt())->toBe($percent)
            ->and(array_map(strval(...), Shares::joined(array_reverse($shares))))->toBe([(string) $whole])
            ->and(Shares::gaps($shares))->toBe([]);
    }
    $apart = array_map(
        AddressRange::parse(...),
        ['192.0.2.30-192.0.2.39', '192.0.2.10-192.0.2.19', '192.0.2.20-192.0.2.29', '192.0.2.50-192.0.2.59'],
    );
    expect(array_map(strval(...), Shares::joined($apart)))->toBe(['192.0.2.10-192.0.2.39', '192.0.2.50-192.0.2.59']);
});

it('tells when how many clients have asked again', function (): void {
    $renewals = Renewals::of([-50 => 1, 0 => 1, 100 => 4, 200 => 3, 400 => 1]);
    expect($renewals->clients)->toBe(10)
        ->and($renewals->until(0.2))->toBe(0)
        ->and($renewals->until(0.21))->toBe(100)
        ->and($renewals->until(0.5))->toBe(100)
        ->and($renewals->until(0.95))->toBe(400)
        ->and($renewals->until(1.0))->toBe(400)
        ->and(Renewals::of([])->until(0.5))->toBeNull()
        ->and(Renewals::of([])->curve())->toBe([])
        ->and(Renewals::of([0 => 3])->curve())->toBe([[0.0, 0.0], [0.0, 1.0]]);
    $curve = $renewals->curve();
    expect($curve[0])->toBe([0.0, 0.0])->and(end($curve))->toBe([1.0, 1.0]);
});

it('counts who loses a lease in an outage', function (): void {
    // Leases of 400 s: whoever asks at 100 s has until 300 s.
    $renewals = Renewals::of([0 => 2, 100 => 3, 200 => 5]);
    expect($renewals->losing(199, 400))->toBe(0)->and($renewals->losing(200, 400))->toBe(2)->and($renewals->losing(300, 400))->toBe(5)
        ->and($renewals->losing(400, 400))->toBe(10);
});

it('advises a lease time that outlives the outage and fits the pool', function (): void {
    $advice = LeaseAdvice::of(4 * 3600, 200, 10.0);
    expect($advice->least)->toBe(8 * 3600)->and($advice->most)->toBe(20 * 3600)->and($advice->needs)->toBe(80)->and($advice->fits())
        ->toBeTrue();
    $tight = LeaseAdvice::of(12 * 3600, 200, 10.0);
    expect($tight->needs)->toBe(240)->and($tight->fits())->toBeFalse()
        ->and(LeaseAdvice::of(3600, 10, 0.0)->fits())->toBeTrue()->and(LeaseAdvice::of(3600, 10, 0.0)->most)->toBeNull();
});
