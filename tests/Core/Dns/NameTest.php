<?php

declare(strict_types=1);

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Dns\Serial;
use HarborPost\Core\Dns\Ttl;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;

it('reads and writes escapes', function (string $text, array $labels, string $out): void {
    $name = Name::parse($text);
    expect($name->labels())->toBe($labels)->and((string) $name)->toBe($out)->and((string) Name::parse($out))->toBe($out);
})->with([
    ['www.Example.COM.', ['www', 'Example', 'COM'], 'www.Example.COM.'],
    ['a\.b.example.', ['a.b', 'example'], 'a\.b.example.'],
    ['\000x.example.', ["\0x", 'example'], '\000x.example.'],
    ['a\\\\b.example.', ['a\\b', 'example'], 'a\\\\b.example.'], ['mail\@x.example.', ['mail@x', 'example'], 'mail\@x.example.'],
    ['\226.example.', ["\xe2", 'example'], '\226.example.'], ['.', [], '.'],
]);

it('turns international labels into punycode, only those', function (): void {
    expect((string) Name::parse('café.straße.example.'))->toBe('xn--caf-dma.xn--strae-oqa.example.')
        ->and((string) Name::parse('_sip._tcp.example.'))->toBe('_sip._tcp.example.')
        ->and(Name::parse('xn--caf-dma.example.')->readable())->toBe('café.example');
});

it('refuses what breaks a limit', function (string $text): void {
    expect(fn () => Name::parse($text))->toThrow(Malformed::class);
})->with([str_repeat('a', 64).'.example.', implode('.', array_fill(0, 64, 'abc')).'.', 'a..b.', '.a.', 'a\\', 'a\999.', 'a\12.']);

it('orders canonically as RFC 4034 §6.1 has it', function (): void {
    $names = array_map(
        Name::parse(...),
        [
            'example.', 'a.example.', 'yljkjljk.a.example.', 'Z.a.example.', 'zABC.a.EXAMPLE.', 'z.example.', '\001.z.example.',
            '*.z.example.', '\200.z.example.',
        ],
    );
    $shuffled = $names;
    mt_srand(3);
    shuffle($shuffled);
    usort($shuffled, fn (Name $a, Name $b): int => $a->compare($b));
    expect(array_map(strval(...), $shuffled))->toBe(array_map(strval(...), $names));
});

it('compares without case and keeps it', function (): void {
    expect(Name::parse('WWW.example.')->equals(Name::parse('www.EXAMPLE.')))->toBeTrue()
        ->and(Name::parse('a.b.example.')->isIn(Name::parse('B.example.')))->toBeTrue()
        ->and(Name::parse('ab.example.')->isIn(Name::parse('b.example.')))->toBeFalse();
});

it('follows compression pointers backwards only', function (): void {
    $bytes = "\x01f\x03isi\x04arpa\0"."\x03foo\xc0\x00"."\xc0\x06"."\0";
    $reader = new ByteReader($bytes);
    expect((string) Name::fromWire($reader))->toBe('f.isi.arpa.')->and((string) Name::fromWire($reader))
        ->toBe('foo.f.isi.arpa.')->and((string) Name::fromWire($reader))->toBe('arpa.')
        ->and((string) Name::fromWire($reader))->toBe('.');
});

it('refuses loops, forward pointers and overlong names', function (string $bytes): void {
    expect(fn () => Name::fromWire(new ByteReader($bytes)))->toThrow(MalformedBytes::class);
})->with(["\xc0\x00", "\xc0\x02\x01a\0", "\x01a\xc0\x00", "\x40a", "\x05ab", str_repeat("\x3f".str_repeat('a', 63), 5)."\0"]);

it('writes names that read back, sharing suffixes', function (): void {
    $names = new NameCompressor;
    $bytes = '';
    $all = array_map(Name::parse(...), ['a.example.com.', 'b.example.com.', 'example.com.', 'com.', 'c.b.EXAMPLE.com.', '.']);
    $starts = [];
    foreach ($all as $name) {
        $starts[] = strlen($bytes);
        $bytes .= $names->encode($name, strlen($bytes));
    }
    foreach ($starts as $i => $start) {
        $reader = new ByteReader($bytes);
        $reader->seek($start);
        expect(Name::fromWire($reader)->equals($all[$i]))->toBeTrue();
    }
    expect(strlen($bytes))->toBeLessThan(50);
});

it('names the reverse zones of a prefix', function (string $prefix, array $zones): void {
    expect(array_map(fn (Name $n): string => rtrim((string) $n, '.'), ReverseName::zones(Prefix::parse($prefix))))->toBe($zones);
})->with([
    ['192.0.2.0/24', ['2.0.192.in-addr.arpa']], ['10.0.0.0/8', ['10.in-addr.arpa']],
    ['10.32.0.0/15', ['32.10.in-addr.arpa', '33.10.in-addr.arpa']], ['0.0.0.0/0', ['in-addr.arpa']],
    ['192.0.2.64/26', ['64/26.2.0.192.in-addr.arpa']], ['2001:db8::/32', ['8.b.d.0.1.0.0.2.ip6.arpa']],
]);

it('covers an odd IPv6 length with nibble zones', function (): void {
    $zones = ReverseName::zones(Prefix::parse('2001:db8:4b00::/41'));
    expect($zones)->toHaveCount(8)->and((string) $zones[0])->toBe('0.b.4.8.b.d.0.1.0.0.2.ip6.arpa.')
        ->and((string) $zones[7])->toBe('7.b.4.8.b.d.0.1.0.0.2.ip6.arpa.');
});

it('finds the address of a PTR owner again', function (string $address): void {
    expect((string) ReverseName::addressOf(ReverseName::of(Address::parse($address))))->toBe($address);
})->with(['192.0.2.66', '10.0.0.0', '2001:db8::567:89ab']);

it('understands RFC 2317 children', function (): void {
    expect((string) ReverseName::addressOf(Name::parse('66.64/26.2.0.192.in-addr.arpa.')))->toBe('192.0.2.66')
        ->and(ReverseName::addressOf(Name::parse('1.64/26.2.0.192.in-addr.arpa.')))->toBeNull()
        ->and((string) ReverseName::prefixOf(Name::parse('64/26.2.0.192.in-addr.arpa.')))->toBe('192.0.2.64/26')
        ->and(ReverseName::prefixOf(Name::parse('www.example.')))->toBeNull();
});

it('counts serials in a circle', function (int $a, int $b, ?int $order): void {
    expect(Serial::of($a)->compare(Serial::of($b)))->toBe($order);
})->with([[1, 2, -1], [0xFFFFFFFF, 0, -1], [0, 0xFFFFFFFF, 1], [5, 5, 0], [0, 0x80000000, null], [0x7FFFFFFF, 0, 1]]);

it('raises a serial by date and never backwards', function (): void {
    $day = new DateTimeImmutable('2026-11-23');
    expect(Serial::of(2026112204)->nextOn($day)->value)->toBe(2026112301)
        ->and(Serial::of(2026112301)->nextOn($day)->value)->toBe(2026112302)
        ->and(Serial::of(2030010100)->nextOn($day)->value)->toBe(2030010101)->and(Serial::of(0)->nextOn($day)->value)
        ->toBe(2026112301);
});

it('reads times with and without units', function (string $text, ?int $seconds): void {
    expect(Ttl::tryParse($text)?->seconds)->toBe($seconds);
})->with([
    ['3600', 3600], ['1h30m', 5400], ['2D', 172800], ['1w', 604800], ['0', 0], ['-1', null], ['1x', null], ['2147483648', null],
    ['', null],
]);
