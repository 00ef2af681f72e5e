<?php

declare(strict_types=1);

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix;
use HarborPost\Core\Net\PrefixSet;
use HarborPost\Core\Net\Understood;

it('writes IPv6 as RFC 5952 says', function (string $in, string $out): void {
    expect((string) Address::parse($in))->toBe($out);
})->with([
    ['2001:db8:0:0:1:0:0:1', '2001:db8::1:0:0:1'], ['2001:0DB8::0001', '2001:db8::1'], ['2001:db8:0:1:1:1:1:1', '2001:db8:0:1:1:1:1:1'],
    ['0:0:0:0:0:0:0:0', '::'], ['::1', '::1'], ['1::', '1::'], ['2001:db8::', '2001:db8::'], ['::ffff:192.0.2.1', '::ffff:192.0.2.1'],
    ['64:ff9b::192.0.2.33', '64:ff9b::c000:221'],
]);

it('points at the character that is wrong', function (string $text, int $offset): void {
    try {
        Understood::from($text);
        $this->fail("$text was understood");
    } catch (NotUnderstood $e) {
        expect($e->offset)->toBe($offset)->and($e->text)->toBe($text);
    }
})->with([
    ['10.1.2.256', 7], ['10.1.2', 6], ['10.01.2.3', 3], ['10.1.2.3.4', 8], ['10.1.2.x', 7], ['10.1.2.3/33', 9], ['10.1.2.3/', 9],
    ['10.1.2.3 255.255.250', 20],
    ['10.1.2.3 255.0.255.0', 15], ['2001:db8:::1', 9], ['2001:db8::12345', 14], ['1:2:3:4:5:6:7:8:9', 16], ['fe80::1%eth0', 7],
    ['10.0.0.9-10.0.0.1', 9], ['', 0], ['2001:db8::/129', 11],
]);

it('reads every form of a prefix', function (string $text, string $prefix, bool $hostBits): void {
    $understood = Understood::from($text);
    expect((string) $understood->prefix)->toBe($prefix)->and($understood->hostBits)->toBe($hostBits);
})->with([
    ['10.1.2.3/20', '10.1.0.0/20', true], ['10.1.2.3 255.255.240.0', '10.1.0.0/20', true],
    ['10.1.0.0/255.255.240.0', '10.1.0.0/20', false], ['192.0.2.0-192.0.2.63', '192.0.2.0/26', false],
    ['192.0.2.7', '192.0.2.7/32', false], [' 2001:db8::5/64 ', '2001:db8::/64', true], ['192.0.2.0-63', '192.0.2.0/26', false],
    ['0.0.0.0/0', '0.0.0.0/0', false],
]);

it('offers the network when host bits are set', function (): void {
    expect(fn () => Prefix::parse('10.38.9.0/22'))->toThrow(NotUnderstood::class, 'the network is 10.38.8.0/22');
});

it('knows usable addresses by the standards', function (string $prefix, string $first, string $last, ?string $broadcast): void {
    $p = Prefix::parse($prefix);
    expect((string) $p->usable()->first)->toBe($first)->and((string) $p->usable()->last)->toBe($last)
        ->and($p->broadcast() === null ? null : (string) $p->broadcast())->toBe($broadcast);
})->with([
    ['192.0.2.0/24', '192.0.2.1', '192.0.2.254', '192.0.2.255'],
    ['192.0.2.0/31', '192.0.2.0', '192.0.2.1', null],
    ['192.0.2.9/32', '192.0.2.9', '192.0.2.9', null],
    ['2001:db8::/64', '2001:db8::1', '2001:db8::ffff:ffff:ffff:ffff', null], ['2001:db8::/127', '2001:db8::', '2001:db8::1', null],
]);

it('halves and joins to the same prefix', function (): void {
    mt_srand(5);
    for ($i = 0; $i < 500; $i++) {
        $p = Address::fromBytes(random_bytes($i % 2 === 0 ? 4 : 16))->in(mt_rand(0, $i % 2 === 0 ? 31 : 127));
        [$low, $high] = $p->halves() ?? [];
        expect($low->sibling()->equals($high))->toBeTrue()->and($low->supernet()->equals($p))->toBeTrue()
            ->and($high->supernet()->equals($p))->toBeTrue()
            ->and($p->contains($low) && $p->contains($high) && ! $low->overlaps($high))->toBeTrue()
            ->and((string) Prefix::parse((string) $p))->toBe((string) $p);
    }
});

it('agrees with an independent implementation', function (): void {
    mt_srand(6);
    $lines = [];
    for ($i = 0; $i < 300; $i++) {
        $a = Address::fromBytes(random_bytes($i % 2 === 0 ? 4 : 16));
        $lines[] = $a->in(mt_rand(1, $a->family->bits()));
    }
    $python = 'import sys,ipaddress,json
for l in sys.stdin:
    n=ipaddress.ip_network(l.strip())
    print(n.network_address.exploded, n.broadcast_address.exploded, n.num_addresses, n.netmask.exploded, n.hostmask.exploded)';
    $process = proc_open(['python3', '-c', $python], [['pipe', 'r'], ['pipe', 'w']], $pipes);
    fwrite($pipes[0], implode("\n", array_map(strval(...), $lines))."\n");
    fclose($pipes[0]);
    foreach (explode("\n", trim((string) stream_get_contents($pipes[1]))) as $i => $row) {
        [$first, $last, $size, $mask, $host] = explode(' ', $row);
        $p = $lines[$i];
        expect($p->first->equals(Address::parse($first)))->toBeTrue()->and($p->last()->equals(Address::parse($last)))
            ->toBeTrue()->and((string) $p->size())->toBe($size)
            ->and($p->mask()->equals(Address::parse($mask)))->toBeTrue()->and($p->wildcard()->equals(Address::parse($host)))->toBeTrue();
    }
    proc_close($process);
});

it('covers a range with the fewest prefixes, exactly', function (): void {
    mt_srand(7);
    for ($i = 0; $i < 200; $i++) {
        $a = mt_rand(0, 2000);
        $b = $a + mt_rand(0, 600);
        $range = AddressRange::of(Address::parse('10.0.0.0')->plus($a), Address::parse('10.0.0.0')->plus($b));
        $prefixes = $range->prefixes();
        expect(array_sum(array_map(fn (Prefix $p): int => $p->size()->toInt(), $prefixes)))->toBe($b - $a + 1)
            ->and(PrefixSet::of(...$prefixes)->equals(PrefixSet::of($range)))->toBeTrue();
        foreach ($prefixes as $j => $p) {
            expect(
                isset($prefixes[$j + 1])
                    && $p->sibling()->equals($prefixes[$j + 1])
                    && $p->compare($prefixes[$j + 1]) < 0
                    && $p->supernet()->first->equals($p->first),
            )->toBeFalse();
        }
    }
});

it('keeps the laws of sets', function (): void {
    mt_srand(8);
    $random = fn (): PrefixSet => PrefixSet::of(
        ...array_map(fn (): Prefix => Address::parse('10.0.0.0')->plus(mt_rand(0, 1023))->in(mt_rand(23, 32)), range(1, mt_rand(1, 8))),
    );
    for ($i = 0; $i < 200; $i++) {
        [$a, $b] = [$random(), $random()];
        expect($a->union($b)->difference($b)->equals($a->difference($b)))->toBeTrue()
            ->and($a->intersection($b)->union($a->difference($b))->equals($a))->toBeTrue()
            ->and($a->intersection($b)->equals($b->intersection($a)))->toBeTrue()
            ->and($a->difference($a)->isEmpty())->toBeTrue();
    }
});

it('merges both families, IPv4 first', function (): void {
    $set = PrefixSet::of(
        Prefix::parse('2001:db8:8000::/33'),
        Prefix::parse('10.0.0.128/25'),
        Prefix::parse('2001:db8::/33'),
        Prefix::parse('10.0.0.0/25'),
    );
    expect(array_map(strval(...), $set->prefixes()))->toBe(['10.0.0.0/24', '2001:db8::/32']);
});

it('reads a MAC in every usual form', function (string $text): void {
    expect((string) MacAddress::parse($text))->toBe('00:00:5e:00:53:2a');
})->with(['00:00:5e:00:53:2a', '00-00-5E-00-53-2A', '0000.5e00.532a', '00005E00532A']);

it('refuses what is no MAC', function (string $text): void {
    expect(MacAddress::tryParse($text))->toBeNull();
})->with(['00:00:5e:00:53', '00:00-5e:00:53:2a', '00:00:5e:00:53:2g', '', '00:00:5e:00:53:2a:01']);

it('moves a range as far behind another address', function (): void {
    $moved = static fn (string $range, string $from, string $to): ?string => AddressRange::parse($range)
        ->moved(Address::parse($from), Address::parse($to))?->__toString();
    expect($moved('192.0.2.20-192.0.2.30', '192.0.2.0', '198.51.100.128'))->toBe('198.51.100.148-198.51.100.158')
        ->and($moved('2001:db8::1000-2001:db8::1fff', '2001:db8::', '2001:db8:9::'))->toBe('2001:db8:9::1000-2001:db8:9::1fff')
        ->and($moved('192.0.2.20-192.0.2.30', '192.0.2.0', '2001:db8::'))->toBeNull()
        ->and($moved('192.0.2.20-192.0.2.30', '192.0.2.0', '255.255.255.230'))->toBeNull()
        ->and($moved('192.0.2.20-192.0.2.25', '192.0.2.0', '255.255.255.230'))->toBe('255.255.255.250-255.255.255.255');
});
