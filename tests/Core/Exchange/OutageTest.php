<?php

declare(strict_types=1);

use HarborPost\Core\Exchange\Outage;
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
