<?php

declare(strict_types=1);

use HarborPost\Core\Watch\QuietHours;

/* Hours in which nobody is told anything: by the clock on the wall, over midnight, and on the two odd days of the year. */

it('covers what lies between, the end no more', function (string $from, string $to, string $at, bool $quiet): void {
    expect(QuietHours::read($from, $to, 'UTC')->covers(new DateTimeImmutable("2026-06-10 $at UTC")))->toBe($quiet);
})->with([
    ['22:00', '06:30', '21:59:59', false], ['22:00', '06:30', '22:00', true], ['22:00', '06:30', '23:59', true],
    ['22:00', '06:30', '00:00', true], ['22:00', '06:30', '06:29:59', true], ['22:00', '06:30', '06:30', false],
    ['12:00', '13:00', '12:00', true], ['12:00', '13:00', '13:00', false], ['9:05', '9:06', '09:05:30', true],
    ['00:00', '23:59', '23:59', false],
]);

it('goes by the clock of its zone, also when that is put on or back', function (): void {
    $quiet = QuietHours::read('22:00', '06:00', 'Europe/London');
    // Summer time begins on 29 March 2026 at 01:00 UTC, and ends on 25 October.
    expect($quiet->covers(new DateTimeImmutable('2026-03-28 05:30 UTC')))->toBeTrue()
        ->and($quiet->covers(new DateTimeImmutable('2026-03-29 05:30 UTC')))->toBeFalse()
        ->and($quiet->covers(new DateTimeImmutable('2026-10-24 05:30 UTC')))->toBeFalse()
        ->and($quiet->covers(new DateTimeImmutable('2026-10-25 05:30 UTC')))->toBeTrue();
});

it('knows which night a moment belongs to', function (): void {
    $quiet = QuietHours::read('22:00', '06:00', 'UTC');
    $night = fn (string $at): ?string => $quiet->night(new DateTimeImmutable("$at UTC"));
    expect($night('2026-06-10 23:00'))->toBe('2026-06-10')->and($night('2026-06-11 05:00'))->toBe('2026-06-10')
        ->and($night('2026-06-11 06:00'))->toBeNull()->and($night('2026-06-11 22:00'))->toBe('2026-06-11')
        ->and(QuietHours::read('12:00', '13:00', 'UTC')->night(new DateTimeImmutable('2026-06-11 12:30 UTC')))->toBe('2026-06-11');
});

it('says what is none', function (string $from, string $to, string $zone, string $says): void {
    expect(fn () => QuietHours::read($from, $to, $zone))->toThrow(DomainException::class, $says);
})->with([
    ['24:00', '06:00', 'UTC', '24:00'], ['22:00', '6', 'UTC', '"6" is no time'], ['22:00', '06:60', 'UTC', '06:60'],
    ['22:00', '22:00', 'UTC', 'same time'], ['22:00', '06:00', 'Mars/Quay', 'no time zone'], ['', '06:00', 'UTC', 'no time of the day'],
]);

it('writes a time as people do', function (): void {
    expect(QuietHours::time(0))->toBe('00:00')->and(QuietHours::time(1439))->toBe('23:59')->and(QuietHours::time(545))->toBe('09:05');
});
