<?php

declare(strict_types=1);

use HarborPost\Core\Checks\HostName;
use HarborPost\Core\Checks\ZoneRules;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Zone\Fault;
use HarborPost\Core\Dns\Zone\RootHints;
use HarborPost\Core\Dns\Zone\Zone;
use HarborPost\Core\Dns\Zone\ZoneFileReader;
use HarborPost\Core\Exchange\Shares;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\Prefix;

/** @return array{list<string>, list<string>} lines that were read, and codes of faults with their lines */
function lines(string $text, string $origin = 'example.'): array
{
    $faults = [];
    $reader = new ZoneFileReader(Name::parse($origin), function (Fault $f) use (&$faults): void {
        $faults[] = "$f->code $f->line";
    });
    $read = [];
    foreach ($reader->read(preg_split('/(?<=\n)/', $text)) as $record) {
        $read[] = "$record->owner {$record->type()} {$record->data->text()}";
    }

    return [$read, $faults];
}

it('holds a prefix for inside another only when it is', function (string $outer, string $inner, bool $in): void {
    expect(Prefix::parse($outer)->contains(Prefix::parse($inner)))->toBe($in);
})->with([
    ['10.0.0.0/8', '10.0.0.0/16', true], ['10.0.0.0/16', '10.0.0.0/8', false], ['10.0.0.0/8', '10.0.0.0/8', true],
    ['10.0.0.0/8', '11.0.0.0/16', false],
    ['::/0', '0.0.0.0/0', false], ['0.0.0.0/0', '::/0', false], ['2001:db8::/32', '2001:db8::/31', false],
    ['0.0.0.0/0', '255.255.255.255/32', true],
]);

it('knows response codes by their numbers in the IANA registry', function (): void {
    expect(
        array_map(
            fn (Rcode $r): int => $r->value,
            [
                Rcode::NoError, Rcode::FormErr, Rcode::ServFail, Rcode::NxDomain, Rcode::NotImp, Rcode::Refused, Rcode::YxDomain,
                Rcode::YxRrset, Rcode::NxRrset, Rcode::NotAuth, Rcode::NotZone,
            ],
        ),
    )->toBe([0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10]);
});

it('refuses numbers that do not fit their bits', function (string $type, string $text): void {
    expect(fn () => RdataTypes::fromText(RecordType::parse($type), Fields::ofLine($text)))->toThrow(Malformed::class);
})->with([
    ['SRV', '65536 0 0 host.'], ['SRV', '0 65536 0 host.'], ['SRV', '0 0 65536 host.'], ['MX', '65536 host.'],
    ['CAA', '256 issue "ca.example"'], ['TLSA', '256 1 1 00'], ['SSHFP', '1 256 00'], ['NAPTR', '65536 1 "u" "" "" .'],
    ['DS', '65536 8 2 00'], ['URI', '1 65536 "x"'],
]);

it('takes every flag byte and text of CAA, however long (RFC 8659 §4.1.1)', function (): void {
    $long = str_repeat('a', 300);
    $data = RdataTypes::fromText(RecordType::parse('CAA'), Fields::ofLine("0 issue \"$long\""));
    expect($data->text())->toContain($long)
        ->and(RdataTypes::fromText(RecordType::parse('CAA'), Fields::ofLine($data->text()))->canonical())
        ->toBe($data->canonical());
});

it('reads the vectors of RFC 9460 appendix D and refuses its failures', function (string $text, ?string $hex): void {
    $read = fn () => RdataTypes::fromText(RecordType::parse('SVCB'), Fields::ofLine($text));
    $hex === null ? expect($read)->toThrow(Malformed::class) : expect(bin2hex($read()->canonical()))->toBe(str_replace(' ', '', $hex));
})->with([
    'alias' => ['0 foo.example.com.', '0000 03666f6f 076578616d706c65 03636f6d 00'],
    'the owner' => ['1 .', '0001 00'],
    'port' => ['16 foo.example.com. port=53', '0010 03666f6f 076578616d706c65 03636f6d 00 0003 0002 0035'],
    'unknown key' => ['1 foo.example.com. key667=hello', '0001 03666f6f 076578616d706c65 03636f6d 00 029b 0005 68656c6c6f'],
    'quoted bytes' => [
        '1 foo.example.com. key667="hello\210qoo"',
        '0001 03666f6f 076578616d706c65 03636f6d 00 029b 0009 68656c6c6fd2716f6f',
    ],
    'IPv6 hints' => [
        '1 foo.example.com. ipv6hint="2001:db8::1,2001:db8::53:1"',
        '0001 03666f6f 076578616d706c65 03636f6d 00 0006 0020 20010db8000000000000000000000001 20010db8000000000000000000530001',
    ],
    'keys are put in order' => [
        '16 foo.example.org. alpn=h2,h3-19 mandatory=ipv4hint,alpn ipv4hint=192.0.2.1',
        '0010 03666f6f 076578616d706c65 036f7267 00 0000 0004 0001 0004 0001 0009 02 6832 05 68332d3139 0004 0004 c0000201',
    ],
    'a key twice' => ['1 foo.example.com. key123=abc key123=def', null],
    'mandatory without values' => ['1 foo.example.com. mandatory', null],
    'port without a value' => ['1 foo.example.com. port', null],
    'no-default-alpn with a value' => ['1 foo.example.com. no-default-alpn=abc alpn=h2', null],
    'a mandatory key that is not there' => ['1 foo.example.com. mandatory=key123', null],
    'mandatory names itself' => ['1 foo.example.com. mandatory=mandatory', null],
    'a mandatory key twice' => ['1 foo.example.com. mandatory=key123,key123 key123=abc', null],
]);

it('gives a record no owner that a faulty line had', function (): void {
    [$read, $faults] = lines(
        "\$TTL 60\ngood A 192.0.2.1\nbad..name A 192.0.2.2\n A 192.0.2.3\n\$ORIGIN bad..origin.\nx A 192.0.2.4\n\$ORIGIN "
            ."example.\nafter A 192.0.2.5\n",
    );
    expect(implode(' | ', $read))->toContain('good.example. A 192.0.2.1')->toContain('after.example. A 192.0.2.5')->not
        ->toContain('192.0.2.2')->not->toContain('192.0.2.3')->not->toContain('192.0.2.4')->and(count($faults))
        ->toBeGreaterThanOrEqual(3);
});

it('refuses types that only questions and messages have', function (string $type): void {
    [$read, $faults] = lines("\$TTL 60\nx $type \\# 0\n");
    expect($read)->toBe([])->and($faults)->toHaveCount(1);
})->with(['ANY', 'AXFR', 'IXFR', 'TYPE255', 'OPT', 'TSIG', 'TYPE0']);

it('sees aliases that go in a circle, and names below a DNAME', function (string $text, array $codes): void {
    $origin = Name::parse('example.');
    $reader = new ZoneFileReader($origin, fn (Fault $f) => null);
    $zone = Zone::of(
        $origin,
        $reader->read(preg_split('/(?<=\n)/', "\$TTL 3600\n@ IN SOA ns1 host 1 7200 900 1209600 300\n@ NS ns1\nns1 A 192.0.2.1\n$text")),
        true,
    );
    $found = array_values(
        array_filter(
            array_map(fn ($f): string => "$f->code {$f->owner?->lower()}", iterator_to_array(ZoneRules::check($zone), false)),
            fn (string $f): bool => str_starts_with($f, 'alias-loop') || str_starts_with($f, 'below-dname'),
        ),
    );
    sort($found);
    expect($found)->toBe($codes);
})->with([
    ["a CNAME a\n", ['alias-loop a.example.']],
    ["a CNAME b\nb CNAME a\n", ['alias-loop a.example.', 'alias-loop b.example.']],
    ["a CNAME b\nb CNAME ns1\n", []],
    ["d DNAME other.\nx.d A 192.0.2.2\n", ['below-dname x.d.example.']], ["d DNAME other.\nd A 192.0.2.2\n", []],
]);

it('refuses a hint file with a fault in it (RFC 9609 §4)', function (): void {
    $good = ". 3600000 NS a.root.\na.root. 3600000 A 192.0.2.1\n";
    expect(RootHints::parse($good)->servers)->toBe(['a.root.' => ['192.0.2.1']]);
    foreach (["$good\nb.root. 3600000 A 192.0.2.300\n", ". 3600000 NS a.root.\n", "a.root. 3600000 A 192.0.2.1\n", "$good(\n"] as $bad) {
        expect(fn () => RootHints::parse($bad))->toThrow(Malformed::class);
    }
});

it('reads an address back from a reverse name, also below an RFC 2317 child, and from no other', function (
    string $name,
    ?string $address,
): void {
    expect(ReverseName::addressOf(Name::parse($name))?->__toString())->toBe($address);
})->with([
    ['1.2.0.192.in-addr.arpa.', '192.0.2.1'], ['65.64/26.2.0.192.in-addr.arpa.', '192.0.2.65'], ['1.64/26.2.0.192.in-addr.arpa.', null],
    ['1.x.2.0.192.in-addr.arpa.', null], ['2.0.192.in-addr.arpa.', null], ['300.2.0.192.in-addr.arpa.', null],
]);

it('divides a range without loss or overlap', function (int $size, int $parts): void {
    $range = AddressRange::parse('10.0.0.1-'.long2ip(ip2long('10.0.0.1') + $size - 1));
    $shares = Shares::divide($range, $parts);
    expect(array_sum(array_map(fn (AddressRange $r): int => $r->size()->toInt(), $shares)))->toBe($size)
        ->and((string) $shares[0]->first)->toBe('10.0.0.1')->and((string) end($shares)->last)
        ->toBe((string) $range->last)->and(Shares::gaps($shares))->toBe([])->and(count($shares))
        ->toBe(min($size, $parts));
    for ($i = 1; $i < count($shares); $i++) {
        expect((string) $shares[$i - 1]->last->next())->toBe((string) $shares[$i]->first);
    }
})->with([[100, 2], [5, 2], [1, 2], [2, 2], [254, 3], [3, 3], [7, 5], [1000, 1]]);

it('names the gaps between shares', function (): void {
    expect(
        array_map(
            strval(...),
            Shares::gaps([
                AddressRange::parse('10.0.0.1-10.0.0.9'),
                AddressRange::parse('10.0.0.20-10.0.0.30'),
                AddressRange::parse('10.0.0.5-10.0.0.12'),
            ]),
        ),
    )->toBe(['10.0.0.13-10.0.0.19']);
});

it('tells names of hosts from others (RFC 1123 §2.1)', function (string $name, ?string $code): void {
    expect(HostName::fault(Name::parse($name))['code'] ?? null)->toBe($code);
})->with([
    ['till-1.example.', null], ['3com.example.', null], ['spa\032ce.example.', HostName::IMPOSSIBLE],
    ['*.example.', HostName::IMPOSSIBLE], ['-dash.example.', HostName::UNUSUAL], ['under_score.example.', HostName::UNUSUAL],
    ['a\.b.example.', HostName::IMPOSSIBLE],
]);

it('writes SIP servers and vendor information as their standards have them', function (): void {
    // RFC 3361 §3.1 and §3.2.
    expect(bin2hex(OptionTable::encode(120, ['example.com', 'example.net'])))->toBe(
        '00'.'076578616d706c6503636f6d00'.'076578616d706c65036e657400',
    )
        ->and(bin2hex(OptionTable::encode(120, ['192.0.2.1', '192.0.2.2'])))->toBe('01c0000201c0000202')
        ->and(OptionTable::decode(120, hex2bin('01c0000201')))->toBe(['192.0.2.1'])
        ->and(fn () => OptionTable::encode(120, ['192.0.2.1', 'example.com']))->toThrow(BadOption::class)
        ->and(fn () => OptionTable::decode(120, hex2bin('02c0000201')))->toThrow(BadOption::class);
    // RFC 3925 §4: enterprise number, data-len, sub-options.
    $hex = bin2hex(OptionTable::encode(125, ['4491: 1=text:ab 2=hex:00ff']));
    expect(substr($hex, 0, 8))->toBe('0000118b')->and(fn () => OptionTable::decode(125, hex2bin('0000118b09')))->toThrow(BadOption::class);
});
