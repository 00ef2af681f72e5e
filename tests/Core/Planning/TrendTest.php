<?php

declare(strict_types=1);

use HarborPost\Core\Planning\Trend;

/** @return array<int, float> */
function noisy(float $slope, float $noise, int $days, int $seed): array
{
    mt_srand($seed);
    $samples = [];
    for ($day = 0; $day < $days; $day++) {
        $samples[$day] = 20 + $slope * $day + $noise * (mt_rand(0, 2000) / 1000 - 1);
    }

    return $samples;
}

it('finds the slope of an exact line', function (): void {
    $trend = Trend::of(array_combine(range(0, 39), array_map(fn (int $d): float => 10 + 0.5 * $d, range(0, 39))));
    expect($trend->kind)->toBe('rising')->and($trend->slope)->toBe(0.5)->and($trend->on(100))->toBe(60.0)
        ->and($trend->reaches(80))->toBe(['day' => 140, 'earliest' => 140, 'latest' => 140]);
});

it('gives the estimate of Sen\'s own kind of example', function (): void {
    // Slopes of all pairs, taken by hand: the median of {1, 1, 1, 2, 3, …} repeated over 4 points every 5 days.
    $samples = [0 => 0.0, 5 => 5.0, 10 => 10.0, 15 => 40.0, 20 => 20.0, 25 => 25.0, 30 => 30.0, 35 => 35.0, 40 => 40.0, 45 => 45.0];
    $trend = Trend::of($samples);
    expect($trend->slope)->toBe(1.0)->and($trend->on(50))->toBe(50.0);
});

it('is not bent by a few wild days', function (): void {
    $samples = noisy(0.3, 0.5, 60, 4);
    $calm = Trend::of($samples);
    foreach ([10, 30, 55] as $day) {
        $samples[$day] = 100.0;
    }
    expect(abs(Trend::of($samples)->slope - $calm->slope))->toBeLessThan(0.02);
});

it('holds the truth in its spread about as often as it says', function (): void {
    $held = 0;
    for ($seed = 1; $seed <= 200; $seed++) {
        $trend = Trend::of(noisy(0.2, 3, 50, $seed));
        $held += (int) ($trend->slopeLow <= 0.2 && $trend->slopeHigh >= 0.2);
    }
    expect($held)->toBeGreaterThan(140)->toBeLessThan(185);
});

it('says no trend, falling, and too few', function (): void {
    expect(Trend::of(noisy(0.0, 5, 60, 3))->kind)->toBe('none')->and(Trend::of(noisy(-0.4, 1, 60, 3))->kind)
        ->toBe('falling')->and(Trend::of(noisy(-0.4, 1, 60, 3))->reaches(80))->toBeNull()
        ->and(Trend::of(noisy(1, 1, 9, 1))->kind)->toBe('few')->and(Trend::of([])->kind)->toBe('few')
        ->and(Trend::of(array_combine(range(0, 10), array_fill(0, 11, 3.0)))->kind)->toBe('few')
        ->and(Trend::of(array_combine(range(0, 20), array_fill(0, 21, 3.0)))->kind)->toBe('none');
});

it('puts the day between the earliest and the latest', function (int $seed): void {
    $reach = Trend::of(noisy(0.25, 4, 80, $seed))->reaches(80);
    expect($reach)->not->toBeNull()->and($reach['earliest'])->toBeLessThanOrEqual($reach['day'])
        ->and($reach['latest'] ?? PHP_INT_MAX)->toBeGreaterThanOrEqual($reach['day'])->and(abs($reach['day'] - 240))
        ->toBeLessThan(60);
})->with(range(1, 12));

it('looks at the newest samples of a long history', function (): void {
    $samples = array_combine(range(0, 599), array_map(fn (int $d): float => $d < 200 ? 90.0 : 10 + 0.1 * ($d - 200), range(0, 599)));
    expect(abs(Trend::of($samples)->slope - 0.1))->toBeLessThan(1e-9);
});
