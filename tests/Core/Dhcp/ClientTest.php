<?php

declare(strict_types=1);

use HarborPost\Core\Dhcp\Client\BadCondition;
use HarborPost\Core\Dhcp\Client\ClientClass;
use HarborPost\Core\Dhcp\Client\ClientField;
use HarborPost\Core\Dhcp\Client\ClientKey;
use HarborPost\Core\Dhcp\Client\ClientSketch;
use HarborPost\Core\Dhcp\Client\Comparison;
use HarborPost\Core\Dhcp\Client\Condition;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\NotUnderstood;

/** @param  array<int, string>  $options */
function clientSays(array $options, string $mac = '00:00:5e:00:53:2a'): Packet
{
    return Packet::fromClient(MessageType::Discover, 1, MacAddress::parse($mac), $options);
}

it('reads what a client says of itself, instance by instance', function (ClientField $field, array $options, array $seen): void {
    expect($field->of(clientSays($options)))->toBe($seen);
})->with([
    'a vendor class' => [ClientField::VendorClass, [60 => 'callbox-7'], ['callbox-7']],
    'no vendor class' => [ClientField::VendorClass, [], []],
    'two user classes by RFC 3004' => [ClientField::UserClass, [77 => "\x04deck\x04crew"], ['deck', 'crew']],
    'a user class as bare text' => [ClientField::UserClass, [77 => 'deck'], ['deck']],
    'a user class with a length that lies' => [ClientField::UserClass, [77 => "\x09deck"], ["\x09deck"]],
    'a user class of length 0' => [ClientField::UserClass, [77 => "\x00x"], ["\x00x"]],
    'a full name behind flags' => [ClientField::ClientName, [81 => "\x00\x00\x00till.example"], ['till.example']],
    'a host name' => [ClientField::HostName, [12 => 'till-1'], ['till-1']],
    'two architectures' => [ClientField::Architecture, [93 => "\x00\x07\x00\x10"], ["\x00\x07", "\x00\x10"]],
    'no architecture' => [ClientField::Architecture, [], []],
    'a machine' => [ClientField::Machine, [97 => "\x00abc"], ["\x00abc"]],
    'a client identifier' => [ClientField::ClientId, [61 => "\xff123"], ["\xff123"]],
    'the MAC address' => [ClientField::Mac, [], ["\x00\x00\x5e\x00\x53\x2a"]],
    'circuit, remote end and subscriber' => [ClientField::Circuit, [82 => "\x01\x03ge1\x02\x02ab\x06\x01s"], ['ge1']],
    'the remote end' => [ClientField::Remote, [82 => "\x01\x03ge1\x02\x02ab\x06\x01s"], ['ab']],
    'the subscriber' => [ClientField::Subscriber, [82 => "\x01\x03ge1\x02\x02ab\x06\x01s"], ['s']],
    'two enterprises' => [
        ClientField::Enterprise,
        [124 => "\x00\x00\x7e\xd9\x02ab\x00\x00\x00\x09\x00"],
        ["\x00\x00\x7e\xd9", "\x00\x00\x00\x09"],
    ],
]);

it('compares by each row', function (string $field, string $is, string $value, array $options, bool $holds): void {
    expect(Condition::of($field, $is, $value)->matches(clientSays($options)))->toBe($holds);
})->with([
    'is' => ['vendor-class', 'is', 'callbox', [60 => 'callbox'], true],
    'is, and is longer' => ['vendor-class', 'is', 'callbox', [60 => 'callbox-7'], false],
    'letters count' => ['vendor-class', 'is', 'callbox', [60 => 'Callbox'], false],
    'starts' => ['vendor-class', 'starts', 'callbox', [60 => 'callbox-7'], true],
    'does not start' => ['vendor-class', 'starts', 'box', [60 => 'callbox-7'], false],
    'contains' => ['vendor-class', 'contains', 'box', [60 => 'callbox-7'], true],
    'is one of' => ['vendor-class', 'in', 'a, callbox, b', [60 => 'callbox'], true],
    'is none of' => ['vendor-class', 'in', 'a, b', [60 => 'callbox'], false],
    'bytes' => ['client-id', 'starts', '0xff 12', [61 => "\xff\x12\x34"], true],
    'the start of a MAC' => ['mac', 'starts', '00:00:5e', [], true],
    'another MAC' => ['mac', 'is', '00:00:5e:00:53:2b', [], false],
    'a MAC with dots' => ['mac', 'is', '0000.5e00.532a', [], true],
    'an architecture' => ['architecture', 'is', '7', [93 => "\x00\x07"], true],
    'one architecture of two' => ['architecture', 'in', '16, 20', [93 => "\x00\x07\x00\x10"], true],
    'an enterprise' => ['enterprise', 'is', '32473', [124 => "\x00\x00\x7e\xd9\x00"], true],
    'nothing said holds nothing' => ['user-class', 'contains', 'x', [], false],
]);

it('refuses rows that compare nothing', function (string $field, string $is, string $value): void {
    expect(fn () => Condition::of($field, $is, $value))->toThrow(BadCondition::class);
})->with([
    'no such field' => ['colour', 'is', 'x'], 'no such comparison' => ['mac', 'likes', '00'], 'blank' => ['vendor-class', 'is', ''],
    'a list of nothing' => ['vendor-class', 'in', ' , '], 'half a MAC that is' => ['mac', 'is', '00:00:5e'],
    'half a MAC in a list' => ['mac', 'in', '00:00:5e:00:53:2a, 00:00'],
    'a MAC of seven bytes' => ['mac', 'starts', '00:00:5e:00:53:2a:01'],
    'no digits' => ['mac', 'starts', 'zz'], 'odd digits' => ['client-id', 'is', '0x123'], 'no number' => ['architecture', 'is', 'x86'],
    'too large a number' => ['architecture', 'is', '65536'], 'too large an enterprise' => ['enterprise', 'is', '4294967296'],
]);

it('takes the largest numbers there are', function (): void {
    expect(Condition::of('architecture', 'is', '65535')->matches(clientSays([93 => "\xff\xff"])))->toBeTrue()
        ->and(Condition::of('enterprise', 'is', '4294967295')->matches(clientSays([124 => "\xff\xff\xff\xff\x00"])))->toBeTrue();
});

it('holds for all rows or for any, and says why', function (): void {
    $rows = [
        ['field' => 'vendor-class', 'is' => 'starts', 'value' => 'callbox'],
        ['field' => 'mac', 'is' => 'starts', 'value' => '00:00:5e'],
    ];
    $all = ClientClass::of('1', 'Callboxes', false, $rows);
    $any = ClientClass::of('1', 'Callboxes', true, $rows);
    $half = clientSays([], '00:00:5e:00:53:01');
    $none = clientSays([60 => 'radio'], '02:00:5e:00:53:01');
    $both = clientSays([60 => 'callbox-1']);
    expect([$all->matches($half), $any->matches($half)])->toBe([false, true])
        ->and([$all->matches($none), $any->matches($none)])->toBe([false, false])
        ->and([$all->matches($both), $any->matches($both)])->toBe([true, true])
        ->and($all->words())->toContain(' and ')
        ->and($any->words())->toContain(' or ')
        ->and(array_column($all->why($none), 'holds'))->toBe([false, false])
        ->and(array_column($all->why($none), 'seen'))->toBe(['radio', '02:00:5e:00:53:01'])
        ->and($all->why($half)[0]['seen'])->toBeNull();
});

it('has no class that holds for everybody', function (): void {
    expect(fn () => ClientClass::of('1', 'x', true, []))->toThrow(BadCondition::class);
});

it('names every field and comparison, with its standard', function (): void {
    $labels = array_map(fn (ClientField $f): string => $f->label(), ClientField::cases());
    expect(array_unique($labels))->toHaveCount(count(ClientField::cases()));
    foreach (ClientField::cases() as $field) {
        expect($field->standard())->toStartWith('RFC ');
    }
    expect(array_unique(array_map(fn (Comparison $c): string => $c->label(), Comparison::cases())))->toHaveCount(4);
});

it('knows a client by its MAC or its identifier', function (string $text, ?string $mac, ?string $identifier): void {
    $key = ClientKey::parse($text);
    expect((string) $key->mac)->toBe((string) $mac)->and($key->identifier)->toBe($identifier);
    expect(ClientKey::parse((string) $key)->equals($key))->toBeTrue();
})->with([
    'a MAC' => ['00-00-5E-00-53-2A', '00:00:5e:00:53:2a', null],
    'an identifier' => ['0xff00000001000100', null, "\xff\x00\x00\x00\x01\x00\x01\x00"],
    'an identifier that is a MAC' => ['0x0100005e00532a', '00:00:5e:00:53:2a', null],
    'seven bytes of another type' => ['0x0600005e00532a', null, "\x06\x00\x00\x5e\x00\x53\x2a"],
    'two bytes' => ['0x0102', null, "\x01\x02"],
    'with blanks' => [' 0x01 02 03 ', null, "\x01\x02\x03"],
]);

it('refuses what is no client', function (string $text): void {
    expect(fn () => ClientKey::parse($text))->toThrow(NotUnderstood::class);
})->with(['', 'till-1', '0x', '0x01', '0x0g01', '0x'.str_repeat('00', 131)]);

it('takes an identifier of 130 bytes', function (): void {
    expect(strlen((string) ClientKey::parse('0x'.str_repeat('07', 130))->identifier))->toBe(130);
});

it('tells clients apart that share bytes', function (): void {
    $one = ClientKey::parse('0x0102');
    expect($one->equals(ClientKey::parse('0x0103')))->toBeFalse()
        ->and($one->equals(ClientKey::parse('00:00:5e:00:53:2a')))->toBeFalse();
});

it('sketches what a client and its relay would send', function (): void {
    $sketch = new ClientSketch(
        MacAddress::parse('02:00:5e:00:00:01'), 'till-1', [1, 3], 'callbox', 'deck', '', 'ge1', 'ab', Address::parse('192.0.2.9'),
    );
    $packet = Packet::fromWire($sketch->discover(7, Address::parse('192.0.2.1'))->wire());
    expect($packet->xid)->toBe(7)
        ->and((string) $packet->relayAddress)->toBe('192.0.2.1')
        ->and($packet->options[61])->toBe("\x01\x02\x00\x5e\x00\x00\x01")
        ->and($packet->options[12])->toBe('till-1')
        ->and($packet->options[60])->toBe('callbox')
        ->and($packet->options[77])->toBe("\x04deck")
        ->and($packet->options[55])->toBe("\x01\x03")
        ->and($packet->options[82])->toBe("\x01\x03ge1\x02\x02ab")
        ->and((string) $packet->address(50))->toBe('192.0.2.9')
        ->and(ClientField::UserClass->of($packet))->toBe(['deck'])
        ->and(ClientField::Remote->of($packet))->toBe(['ab'])
        ->and((string) $sketch->key())->toBe('02:00:5e:00:00:01');
});

it('leaves out what it does not say', function (): void {
    $bare = new ClientSketch(MacAddress::parse('02:00:5e:00:00:01'), identifier: "\xff\x01\x02");
    expect(array_keys($bare->common()))->toBe([61])
        ->and($bare->common()[61])->toBe("\xff\x01\x02")
        ->and((string) $bare->key())->toBe('0xff0102')
        ->and(ClientSketch::bytes('0x0102'))->toBe("\x01\x02")
        ->and(ClientSketch::bytes('x02'))->toBe('x02');
});
