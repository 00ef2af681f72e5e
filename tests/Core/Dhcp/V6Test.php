<?php

declare(strict_types=1);

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V6\Association;
use HarborPost\Core\Dhcp\V6\AssociationKind;
use HarborPost\Core\Dhcp\V6\Code;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Dhcp\V6\Leased;
use HarborPost\Core\Dhcp\V6\Message;
use HarborPost\Core\Dhcp\V6\MessageType;
use HarborPost\Core\Dhcp\V6\OptionList;
use HarborPost\Core\Dhcp\V6\OptionReader;
use HarborPost\Core\Dhcp\V6\Relayed;
use HarborPost\Core\Dhcp\V6\StatusCode;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix;

it('reads each kind of DUID and says what stands in it', function (string $hex, string $words, ?string $mac): void {
    $duid = Duid::parse($hex);
    expect($duid->words())->toBe($words)->and($duid->mac()?->__toString())->toBe($mac)->and(Duid::parse((string) $duid)->equals($duid))
        ->toBeTrue()
        ->and(Duid::parse('0x'.bin2hex($duid->bytes))->equals($duid))->toBeTrue();
})->with([
    // The example of RFC 8415 §11.3 carries its enterprise number and an identifier of eight bytes.
    'enterprise' => ['00:02:00:00:00:09:0c:c0:84:d3:03:00:09:12', 'DUID-EN of enterprise 9', null],
    'link-layer and time' => [
        '00:01:00:01:2a:2b:2c:2d:00:00:5e:00:53:17', 'DUID-LLT of 00:00:5e:00:53:17, made 2 Jun 2022', '00:00:5e:00:53:17',
    ],
    'link-layer' => ['00:03:00:01:00:00:5e:00:53:17', 'DUID-LL of 00:00:5e:00:53:17', '00:00:5e:00:53:17'],
    'UUID' => ['00:04:'.implode(':', str_split('0123456789abcdef0123456789abcdef', 2)),
        'DUID-UUID 01234567-89ab-cdef-0123-456789abcdef', null],
    'of another network' => ['00:03:00:06:00:00:5e:00:53:17', 'DUID of type 3', null],
    'unknown' => ['00:09:01', 'DUID of type 9', null],
]);

it('takes no DUID that is too short, too long or no hexadecimal', function (string $text): void {
    expect(Duid::tryParse($text))->toBeNull()->and(fn () => Duid::parse($text))->toThrow(NotUnderstood::class);
})->with(['', '00:01', str_repeat('00', 131), 'quay', '00:0']);

it('keeps the longest DUID and makes the same one of the same name', function (): void {
    expect(strlen(Duid::parse(str_repeat('ab', 130))->bytes))->toBe(130)
        ->and(Duid::ofName('tide1')->equals(Duid::ofName('tide1')))->toBeTrue()
        ->and(Duid::ofName('tide1')->equals(Duid::ofName('tide2')))->toBeFalse()
        ->and((string) Duid::ofMac(MacAddress::parse('00:00:5e:00:53:01')))->toBe('00:03:00:01:00:00:5e:00:53:01');
});

it('writes every registered option as it reads it', function (): void {
    $samples = [
        'addresses6' => ['2001:db8::1', '2001:db8::2'], 'address6' => ['2001:db8::1'],
        'plain-names' => ['crew.kittiwake.example', 'example'],
        'text' => ['Europe/London'], 'seconds' => ['86400'], 'uint8' => ['255'], 'uint16' => ['1024'], 'uint16s' => ['1', '65535'],
    ];
    foreach (OptionTable::all(Family::V6) as $definition) {
        foreach ($samples as $values) {
            try {
                $bytes = $definition->shape->encode($values);
                expect($definition->shape->encode($definition->shape->decode($bytes)))->toBe($bytes);
            } catch (BadOption) {
                continue;
            }
        }
        expect($definition->standard)->toStartWith('RFC ')->and($definition->code)->toBeLessThanOrEqual(65535);
    }
    // RFC 3646 §4: names stand there whole.
    expect(bin2hex(OptionTable::encode(24, ['a.example', 'b.example'], Family::V6)))
        ->toBe('0161076578616d706c6500'.'0162076578616d706c6500')
        ->and(fn () => OptionTable::decode(24, hex2bin('0161076578616d706c65000162c002'), Family::V6))->toThrow(BadOption::class)
        ->and(fn () => OptionTable::encode(23, ['192.0.2.1'], Family::V6))->toThrow(BadOption::class)
        ->and(fn () => OptionTable::decode(23, str_repeat("\0", 17), Family::V6))->toThrow(BadOption::class)
        ->and(bin2hex(OptionTable::encode(17, ['32473: 1=text:ab 300=hex:00ff'], Family::V6)))
        ->toBe('00007ed9'.'000100026162'.'012c000200ff')
        ->and(OptionTable::decode(17, hex2bin('00007ed9000100026162'), Family::V6))->toBe(['32473: 1=text:ab'])
        ->and(fn () => OptionTable::decode(17, hex2bin('00007ed90001000961'), Family::V6))->toThrow(BadOption::class)
        ->and(OptionTable::decode(56, hex2bin('00010010').Address::parse('2001:db8::7b')->bytes, Family::V6))
        ->toBe(['1=address:2001:db8::7b'])
        ->and(OptionTable::split(24, 'a.example, b.example', Family::V6))->toBe(['a.example', 'b.example'])
        ->and(OptionTable::definition(700, Family::V6)->name)->toBe('option 700')
        ->and(OptionTable::belowLeast(32, ['599'], Family::V6))->toBe(600)->and(OptionTable::belowLeast(32, ['600'], Family::V6))
        ->toBeNull()
        ->and(OptionTable::isFromClients(6, Family::V6))->toBeTrue()->and(OptionTable::isFromClients(6))->toBeFalse()
        ->and(fn () => OptionTable::definition(65536, Family::V6))->toThrow(BadOption::class)
        ->and(fn () => OptionTable::definition(255))->toThrow(BadOption::class);
});

it('answers through the same relays, with the interface and nothing else of theirs', function (): void {
    $message = new Message(MessageType::Solicit, 0xABCDEF, new OptionList([[1, "\0\x03\0\1abcdef"]]));
    $inner = Relayed::through(Address::parse('2001:db8:1::1'), Address::parse('fe80::7'), $message,
        new OptionList([[18, 'quay-3'], [37, 'x']]));
    $back = $inner->answered(new Message(MessageType::Advertise, 0xABCDEF, new OptionList));
    expect($back->reply)->toBeTrue()->and($back->relays[0]->options->all)->toBe([[18, 'quay-3']])
        ->and((string) $back->relays[0]->peer)->toBe('fe80::7')->and(ord($back->wire()[0]))->toBe(13)
        ->and(Relayed::fromWire($back->wire()))->toEqual($back);
});

it('takes the link from the innermost relay that says one', function (): void {
    $read = Relayed::fromWire(hex2bin(
        '0c01'.bin2hex(Address::parse('2001:db8:ffff::1')->bytes).bin2hex(Address::parse('fe80::2')->bytes).'0009'
            .sprintf('%04x', 34 + 4 + 4)
        .'0c00'.str_repeat('00', 16).bin2hex(Address::parse('fe80::3')->bytes).'00090004'.'0b123456',
    ));
    expect((string) $read->link())->toBe('2001:db8:ffff::1')->and(count($read->relays))->toBe(2)
        ->and($read->message->type)->toBe(MessageType::InformationRequest)->and($read->message->transaction)->toBe(0x123456);
});

it('stops at what is cut off, nested too deep or none of its messages', function (string $hex): void {
    expect(fn () => Relayed::fromWire((string) hex2bin($hex)))->toThrow(MalformedBytes::class);
})->with(function (): array {
    $deep = '0b123456';
    for ($i = 0; $i < 10; $i++) {
        $deep = '0c00'.str_repeat('00', 32).'0009'.sprintf('%04x', strlen($deep) / 2).$deep;
    }

    return ['nothing' => [''], 'no type' => ['63000000'], 'cut' => ['01000001000100'], 'a length that lies' => ['010000010001000a00'],
        'no message inside' => ['0c00'.str_repeat('00', 32)], 'ten relays' => [$deep]];
});

it('refuses an association that is cut off, and a length beyond an address', function (): void {
    expect(fn () => Association::fromWire(AssociationKind::Address, 'abc'))->toThrow(MalformedBytes::class)
        ->and(fn () => Association::fromWire(AssociationKind::Prefix, pack('NNNnnNNC', 1, 0, 0, 26, 25, 0, 0, 129).str_repeat("\0", 16)))
        ->toThrow(MalformedBytes::class)
        ->and(StatusCode::of("\0"))->toBeNull()->and(StatusCode::of("\0\x06"))->toBe(StatusCode::NoPrefixAvail)
        ->and(Leased::address(Address::parse('2001:db8::1'))->words())->toBe('2001:db8::1')
        ->and((new Leased(Prefix::parse('2001:db8::/56')))->words())->toBe('2001:db8::/56');
});

it('tells which messages a server must not answer', function (MessageType $type, bool $client, bool $server, bool $other,
    bool $fault): void {
    $self = Duid::ofName('self');
    $options = new OptionList([
        ...$client ? [[Code::CLIENT_ID, Duid::ofName('client')->bytes]] : [],
        ...$server ? [[Code::SERVER_ID, ($other ? Duid::ofName('other') : $self)->bytes]] : [],
    ]);
    expect((new Message($type, 1, $options))->fault($self) !== null)->toBe($fault);
})->with([
    // RFC 8415 §16.2 to §16.12
    [MessageType::Solicit, true, false, false, false], [MessageType::Solicit, false, false, false, true],
    [MessageType::Solicit, true, true, false, true], [MessageType::Request, true, true, false, false],
    [MessageType::Request, true, false, false, true], [MessageType::Request, true, true, true, true],
    [MessageType::Confirm, true, true, false, true], [MessageType::Renew, true, true, false, false],
    [MessageType::Renew, true, false, false, true], [MessageType::Rebind, true, false, false, false],
    [MessageType::Rebind, true, true, false, true], [MessageType::Release, true, false, false, true],
    [MessageType::Decline, false, true, false, true], [MessageType::InformationRequest, false, false, false, false],
    [MessageType::InformationRequest, true, true, false, false], [MessageType::InformationRequest, false, true, true, true],
]);

it('reads a message through its relay, level by level, each at its byte', function (): void {
    $message = new Message(MessageType::Reply, 0xA1B2C3, new OptionList([
        [Code::CLIENT_ID, Duid::parse('00:03:00:01:00:00:5e:00:53:17')->bytes],
        [Code::IA_PD, (new Association(AssociationKind::Prefix, 7, [new Leased(Prefix::parse('2001:db8:40::/56'), 100, 200)], 50, 80))
            ->wire()],
        [Code::NAME_SERVERS, str_repeat("\0", 15)],
        [Code::STATUS, StatusCode::NoBinding->with('gone')],
    ]));
    $relayed = Relayed::through(Address::parse('2001:db8:1::1'), Address::parse('fe80::7'), $message)->wire();
    $lines = OptionReader::read($relayed);
    expect(array_map(static fn (array $l): string => "$l[offset]/$l[depth] $l[name]: $l[meaning]".($l['fault'] ?? ''), $lines))->toBe([
        '0/0 RELAY-FORW: hops 0, link 2001:db8:1::1, peer fe80::7',
        '34/1 relayed message: '.strlen($message->wire()).' bytes',
        '38/2 REPLY: transaction a1b2c3',
        '42/3 client identifier: DUID-LL of 00:00:5e:00:53:17',
        '56/3 identity association of prefixes: number 7, T1 50 s, T2 80 s',
        '72/4 delegated prefix: 2001:db8:40::/56, preferred 100 s, valid 200 s',
        '101/3 domain name servers: byte 0: IPv6 addresses have 16 bytes each',
        '120/3 status code: NoBinding gone',
    ]);
});

it('says where a message lies or ends too soon', function (string $hex, string $fault): void {
    $lines = OptionReader::read((string) hex2bin($hex));
    expect(end($lines)['fault'])->toBe($fault);
})->with([
    'a length' => ['0017002020010db8', 'says 32 bytes, 4 are there'], 'a head' => ['0c00', '34 bytes of its head, 2 are there'],
    'half an option' => ['0017', 'code and length have 4 bytes'], 'fields' => ['00030004aabbccdd', '12 bytes of its fields, 4 are there'],
    'a DUID' => ['000100020001', 'byte 0: a DUID of 3 to 130 bytes'], 'a status' => ['000d00020063', 'byte 0: a status from 0 to 11'],
    'a message in a relay' => ['000900020102', '4 bytes of its head, 2 are there'],
]);

it('does not follow what is nested without an end', function (): void {
    $deep = '';
    for ($i = 0; $i < 40; $i++) {
        $deep = pack('nn', 3, 12 + strlen($deep)).str_repeat("\0", 12).$deep;
    }
    expect(count(OptionReader::read($deep)))->toBeLessThan(20)->and(fn () => OptionReader::one(0, ''))->toThrow(BadOption::class);
});
