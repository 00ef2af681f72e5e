<?php

declare(strict_types=1);

use HarborPost\Core\Shipping\Order;
use HarborPost\Core\Shipping\Span;
use HarborPost\Core\Shipping\Window;

$at = static fn (string $text): DateTimeImmutable => new DateTimeImmutable($text);
$utc = static fn (?Span $s): ?array => $s === null ? null : array_map(
    static fn (DateTimeImmutable $d): string => $d->setTimezone(new DateTimeZone('UTC'))->format('D Y-m-d H:i'),
    [$s->from, $s->to],
);

test('a window opens by the clock of its place', function (string $moment, ?array $open, array $next) use ($at, $utc) {
    $window = Window::of([5, 1, 2, 3, 4, 1], '22:00', 90, 'Europe/London');
    expect($utc($window->at($at($moment))))->toBe($open)->and($utc($window->after($at($moment))))->toBe($next);
})->with([
    'before' => ['2026-11-30T21:59Z', null, ['Mon 2026-11-30 22:00', 'Mon 2026-11-30 23:30']],
    'its first moment is in it, and not next' => [
        '2026-11-30T22:00Z', ['Mon 2026-11-30 22:00', 'Mon 2026-11-30 23:30'], ['Tue 2026-12-01 22:00', 'Tue 2026-12-01 23:30'],
    ],
    'its last moment is not' => ['2026-11-30T23:30Z', null, ['Tue 2026-12-01 22:00', 'Tue 2026-12-01 23:30']],
    'over the weekend' => ['2026-12-04T23:45Z', null, ['Mon 2026-12-07 22:00', 'Mon 2026-12-07 23:30']],
    'in summer it is an hour earlier by UTC' => [
        '2026-07-01T21:30Z', ['Wed 2026-07-01 21:00', 'Wed 2026-07-01 22:30'], ['Thu 2026-07-02 21:00', 'Thu 2026-07-02 22:30'],
    ],
]);

test('one that goes over midnight is open on the next day', function () use ($at, $utc) {
    $window = Window::of([6], '23:00', 240, 'Europe/London');
    expect($utc($window->at($at('2026-11-29T02:59Z'))))->toBe(['Sat 2026-11-28 23:00', 'Sun 2026-11-29 03:00'])
        ->and($window->at($at('2026-11-29T03:00Z')))->toBeNull();
});

test('a night in which clocks are moved has its minutes', function (string $starts, string $moment, array $open) use ($at, $utc) {
    $window = Window::of([7], $starts, 120, 'Europe/London');
    expect($utc($window->at($at($moment))))->toBe($open);
})->with([
    'spring leaves 01:30 out: it is 02:30 there' => ['01:30', '2026-03-29T02:00Z', ['Sun 2026-03-29 01:30', 'Sun 2026-03-29 03:30']],
    'autumn has 01:30 twice: the first counts' => ['01:30', '2026-10-25T02:00Z', ['Sun 2026-10-25 00:30', 'Sun 2026-10-25 02:30']],
    'over the move it still lasts two hours' => ['00:30', '2026-10-25T01:00Z', ['Sat 2026-10-24 23:30', 'Sun 2026-10-25 01:30']],
]);

test('in every zone over two years, each day has its opening, each of its length, none within another', function (string $zone) use ($at) {
    foreach (['00:00', '00:30', '02:30', '23:59'] as $starts) {
        $window = Window::of([1, 2, 3, 4, 5, 6, 7], $starts, 60, $zone);
        $spans = $window->between($at('2026-01-01T12:00Z'), $at('2028-01-01T12:00Z'));
        expect(count($spans))->toBeGreaterThanOrEqual(729)->toBeLessThanOrEqual(731);
        foreach ($spans as $i => $span) {
            expect($span->to->getTimestamp() - $span->from->getTimestamp())->toBe(3600)
                ->and($i === 0 || $span->from >= $spans[$i - 1]->to)->toBeTrue();
            $middle = $span->from->modify('+30 minutes');
            expect($window->at($middle)?->from->getTimestamp())->toBe($span->from->getTimestamp());
        }
    }
})->with(['Europe/London', 'America/New_York', 'Australia/Lord_Howe', 'Pacific/Apia', 'Asia/Kathmandu']);

test('what is no window is refused with words', function (array $days, string $starts, int $minutes, string $zone) {
    expect(fn () => Window::of($days, $starts, $minutes, $zone))->toThrow(InvalidArgumentException::class);
})->with([
    [[], '22:00', 60, 'UTC'], [[0], '22:00', 60, 'UTC'], [[8], '22:00', 60, 'UTC'], [[1], '24:00', 60, 'UTC'], [[1], '22', 60, 'UTC'],
    [[1], '22:00', 4, 'UTC'], [[1], '22:00', 1441, 'UTC'], [[1], '22:00', 60, 'Europe/Nowhere'],
]);

test('it says itself in words', function () {
    expect(Window::of([1, 2, 3, 4, 5], '22:00', 90, 'Europe/London')->words())
        ->toBe('Monday to Friday 22:00 for 1 h 30 min, Europe/London')
        ->and(Window::of([7, 6], '1:05', 60, 'UTC')->words())->toBe('Saturday, Sunday 01:05 for 1 h, UTC')
        ->and(Window::of([1, 2, 3, 4, 5, 6, 7], '00:00', 30, 'UTC')->words())->toBe('daily 00:00 for 30 min, UTC');
});

test('servers come after those that they wait for', function () {
    expect(Order::of(['relay', 'second', 'first', 'alone'], [['first', 'second'], ['second', 'relay'], ['first', 'gone']]))
        ->toBe(['first' => [], 'alone' => [], 'second' => ['first'], 'relay' => ['second']]);
});

test('of any arrows an order is made, and it keeps every arrow that closes no ring', function () {
    mt_srand(7);
    for ($round = 0; $round < 400; $round++) {
        $servers = array_map(static fn (int $i): string => "s$i", range(1, mt_rand(1, 9)));
        $arrows = [];
        for ($i = mt_rand(0, 20); $i > 0; $i--) {
            $arrows[] = [$servers[array_rand($servers)], $servers[array_rand($servers)]];
        }
        $order = Order::of($servers, $arrows);
        $place = array_flip(array_keys($order));
        expect(count($order))->toBe(count($servers));
        foreach ($order as $server => $waits) {
            foreach ($waits as $first) {
                expect($place[$first])->toBeLessThan($place[$server])->and($arrows)->toContain([$first, $server]);
            }
        }
        // Without a ring none is left out.
        $down = array_filter($arrows, static fn (array $a): bool => $a[0] < $a[1]);
        foreach (Order::of($servers, array_values($down)) as $server => $waits) {
            $meant = array_unique(array_column(array_filter($down, static fn (array $a): bool => $a[1] === $server), 0));
            expect(array_diff($meant, $waits))->toBe([]);
        }
    }
});
