<?php

declare(strict_types=1);

use HarborPost\Core\Watch\Every;
use HarborPost\Core\Watch\Timetable;

$at = static fn (string $text): DateTimeImmutable => new DateTimeImmutable($text);

test('the next runs are those of the wall clock', function (Every $every, int $day, string $time, string $from, array $runs) use ($at) {
    $table = Timetable::of($every, $day, $time, 'Europe/London');
    $found = array_map(
        static fn (DateTimeImmutable $r): string => $r->setTimezone(new DateTimeZone('UTC'))->format('Y-m-d H:i'),
        $table->next($at($from), count($runs)),
    );
    expect($found)->toBe($runs);
})->with([
    'Mondays over the end of summer time' => [
        Every::Week, 1, '07:00', '2026-10-18T12:00Z', ['2026-10-19 06:00', '2026-10-26 07:00', '2026-11-02 07:00'],
    ],
    'a time that the spring night leaves out is not lost' => [
        Every::Day, 1, '01:30', '2026-03-28T00:00Z', ['2026-03-28 01:30', '2026-03-29 01:30', '2026-03-30 00:30'],
    ],
    'a time that the autumn night has twice is taken once' => [
        Every::Day, 1, '01:30', '2026-10-24T12:00Z', ['2026-10-25 00:30', '2026-10-26 01:30'],
    ],
    'the last day of short months' => [
        Every::Month, 31, '06:00', '2026-01-31T07:00Z', ['2026-02-28 06:00', '2026-03-31 05:00', '2026-04-30 05:00'],
    ],
    'a run that is now is not next' => [Every::Day, 1, '07:00', '2026-01-05T07:00Z', ['2026-01-06 07:00']],
]);

test('over ten years each day has its run, in every zone', function (string $zone) use ($at) {
    foreach (['00:00', '00:30', '01:30', '02:30', '23:59'] as $time) {
        $table = Timetable::of(Every::Day, 1, $time, $zone);
        $runs = $table->next($at('2026-01-01T12:00Z'), 800);
        $dates = array_map(static fn (DateTimeImmutable $r): string => $r->format('Y-m-d'), $runs);
        expect(count(array_unique($dates)))->toBe(800);
        foreach ($runs as $i => $run) {
            expect($i === 0 || $run->getTimestamp() - $runs[$i - 1]->getTimestamp() >= 82_000)->toBeTrue();
        }
    }
})->with(['Europe/London', 'America/New_York', 'Australia/Lord_Howe', 'Pacific/Apia', 'Asia/Kathmandu']);

test('what is no timetable is refused with words', function (Every $every, int $day, string $time, string $zone) {
    expect(fn () => Timetable::of($every, $day, $time, $zone))->toThrow(InvalidArgumentException::class);
})->with([
    [Every::Day, 1, '24:00', 'Europe/London'], [Every::Day, 1, '7', 'Europe/London'], [Every::Week, 8, '07:00', 'Europe/London'],
    [Every::Day, 1, '07:00', 'Europe/Nowhere'], [Every::Month, 0, '07:00', 'UTC'],
]);

test('it says itself in words', function () {
    expect(Timetable::of(Every::Week, 1, '7:00', 'Europe/London')->words())->toBe('Mondays 07:00 Europe/London')
        ->and(Timetable::of(Every::Month, 31, '06:30', 'UTC')->words())->toBe('on the last day of each month 06:30 UTC');
});
