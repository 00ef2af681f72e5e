<?php

declare(strict_types=1);

use HarborPost\Core\Net\Prefix;
use HarborPost\Standins\Dhcp\BookV6;
use HarborPost\Standins\Journal;

beforeEach(function (): void {
    $this->file = sys_get_temp_dir().'/hpost-book-'.bin2hex(random_bytes(5));
    $this->book = new BookV6(new Journal($this->file));
    $this->give = fn (string $address, int $length, string $key, int $ends = 200, string $state = 'active') => $this->book->write([
        'address' => $address, 'length' => $length, 'key' => $key, 'client' => '00:04:00:11', 'iaid' => 1, 'name' => '', 'state' => $state,
        'starts' => 1, 'ends' => $ends, 'preferred' => $ends, 'scope' => 's',
    ]);
    $this->holder = fn (string $net): ?string => $this->book->holder(Prefix::parse($net), 100);
});

afterEach(fn () => @unlink($this->file));

it('knows who holds a prefix, what lies in it and what it lies in', function (): void {
    ($this->give)('2001:db8:40:100::', 56, 'a');
    ($this->give)('2001:db8:40:210::', 60, 'b');
    ($this->give)('2001:db8:36::9', 128, 'c');
    ($this->give)('2001:db8:36::a', 128, 'd', 200, 'declined');
    ($this->give)('2001:db8:40:300::', 56, 'e', 99);
    ($this->give)('2001:db8:40:400::', 56, 'f', 200, 'released');
    foreach ([
        '2001:db8:40:100::/56' => 'a', '2001:db8:40:110::/60' => 'a', '2001:db8:40:100::/52' => null, '2001:db8:40::/52' => 'a',
        '2001:db8:40:200::/56' => 'b', '2001:db8:40:220::/60' => null, '2001:db8:36::9/128' => 'c', '2001:db8:36::a/128' => '',
        '2001:db8:40:300::/56' => null, '2001:db8:40:400::/56' => null, '2001:db8:36::b/128' => null,
    ] as $net => $holder) {
        Prefix::tryParse($net) === null ?: expect(($this->holder)($net))->toBe($holder, $net);
    }
});

it('knows it over a restart, and lists it in the order of addresses', function (): void {
    ($this->give)('2001:db8:40:100::', 56, 'a');
    ($this->give)('2001:db8:36::9', 128, 'c');
    ($this->give)('2001:db8:36::10', 128, 'c');
    file_put_contents($this->file, '{"address": "cut o', FILE_APPEND);
    $this->book = new BookV6(new Journal($this->file));
    expect(($this->holder)('2001:db8:40:110::/60'))->toBe('a')->and(array_column($this->book->page('', 10), 'address'))
        ->toBe(['2001:db8:36::9', '2001:db8:36::10', '2001:db8:40:100::'])
        ->and(array_column($this->book->page('2001:db8:36::9', 1), 'address'))->toBe(['2001:db8:36::10'])
        ->and(array_map(strval(...), $this->book->current('c', 100)))->toBe(['2001:db8:36::10/128', '2001:db8:36::9/128'])
        ->and($this->book->current('c', 300))->toBe([])->and((string) $this->book->last('c'))->toBe('2001:db8:36::10/128')
        ->and($this->book->last('nobody'))->toBeNull()->and($this->book->count())->toBe(3);
});
