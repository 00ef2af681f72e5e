<?php

declare(strict_types=1);

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix;
use HarborPost\Core\Planning\RangeRule;

/** @return list<string> */
function ruled(string $rule, string $subnet, ?string $gateway = null): array
{
    return array_map(strval(...), RangeRule::parse($rule)->in(Prefix::parse($subnet), $gateway === null ? null : Address::parse($gateway)));
}

it('takes a part of a subnet by rule', function (string $rule, string $subnet, string $range): void {
    expect(ruled($rule, $subnet))->toBe([$range]);
})->with([
    ['from .20 to .200', '192.0.2.0/24', '192.0.2.20-192.0.2.200'],
    ['.20-.62', '192.0.2.64/26', '192.0.2.84-192.0.2.126'],
    ['FROM .1.0 to .1.254', '198.51.100.0/23', '198.51.101.0-198.51.101.254'],
    ['the upper half', '192.0.2.0/24', '192.0.2.128-192.0.2.254'],
    ['lower quarter', '192.0.2.0/24', '192.0.2.1-192.0.2.63'],
    ['all', '192.0.2.0/30', '192.0.2.1-192.0.2.2'],
    ['all but the first 20', '192.0.2.0/24', '192.0.2.21-192.0.2.254'],
    ['all but the first 10 and the last 4', '192.0.2.0/24', '192.0.2.11-192.0.2.250'],
    ['all but the last 4', '192.0.2.0/24', '192.0.2.1-192.0.2.250'],
    ['the last 50', '192.0.2.0/24', '192.0.2.205-192.0.2.254'],
    ['first 5', '192.0.2.0/29', '192.0.2.1-192.0.2.5'],
    ['all', '192.0.2.0/31', '192.0.2.0-192.0.2.1'],
]);

it('leaves the gateway out, wherever it stands', function (): void {
    expect(ruled('all', '192.0.2.0/29', '192.0.2.1'))->toBe(['192.0.2.2-192.0.2.6'])
        ->and(ruled('all', '192.0.2.0/29', '192.0.2.6'))->toBe(['192.0.2.1-192.0.2.5'])
        ->and(ruled('all', '192.0.2.0/29', '192.0.2.3'))->toBe(['192.0.2.1-192.0.2.2', '192.0.2.4-192.0.2.6'])
        ->and(fn () => ruled('first 1', '192.0.2.0/29', '192.0.2.1'))->toThrow(NotUnderstood::class,
            'more of 192.0.2.0/29 than its gateway');
});

it('says what it does not understand, and what does not fit', function (string $rule, string $subnet, string $words): void {
    expect(fn () => ruled($rule, $subnet))->toThrow(NotUnderstood::class, $words);
})->with([
    ['most of it', '192.0.2.0/24', 'a rule such as'],
    ['', '192.0.2.0/24', 'a rule such as'],
    ['from .200 to .20', '192.0.2.0/24', 'at or after its start'],
    ['from .20 to .200', '192.0.2.0/26', '62 usable addresses'],
    ['.0-.10', '192.0.2.0/24', '254 usable addresses'],
    ['.20-.255', '192.0.2.0/24', '254 usable addresses'],
    ['all but the first 254', '192.0.2.0/24', '254 usable addresses'],
    ['the last 0', '192.0.2.0/24', 'a rule such as'],
]);
