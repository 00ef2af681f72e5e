<?php

declare(strict_types=1);

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Dhcp\Names\ClientFqdn;
use HarborPost\Core\Dhcp\Names\ClientIdentity;
use HarborPost\Core\Dhcp\Names\LeaseName;
use HarborPost\Core\Dhcp\Names\LeaseNames;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Zone\UpdateRequest;
use HarborPost\Core\Exchange\NameUpdates;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;

it('names a client by the digest of RFC 4701', function (ClientIdentity $client, string $name, string $text): void {
    $bytes = $client->at(Name::parse($name));
    expect(base64_encode($bytes))->toBe($text)
        ->and(RdataTypes::fromWire(RecordType::parse('DHCID'), new ByteReader($bytes))->text())->toBe($text)
        ->and(RdataTypes::fromText(RecordType::parse('DHCID'), Fields::ofLine($text, Name::root()))->wire())->toBe($bytes);
})->with([
    // RFC 4701 §3.6.1 to 3.6.3.
    [ClientIdentity::ofDuid(hex2bin('00010006412df166010203040506')), 'chi6.example.com.',
        'AAIBY2/AuCccgoJbsaxcQc9TUapptP69lOjxfNuVAA2kjEA='],
    [ClientIdentity::ofClientId(hex2bin('010708090a0b0c')), 'chi.example.com.', 'AAEBOSD+XR3Os/0LozeXVqcNc7FwCfQdWL3b/NaiUDlW2No='],
    [ClientIdentity::ofHardware(hex2bin('010203040506')), 'client.example.com.', 'AAABxLmlskllE0MVjd57zHcWmEH3pCQ6VytcKD//7es/deY='],
    // A client identifier that carries a DUID is that DUID (RFC 4361 §6.1).
    [ClientIdentity::ofClientId(hex2bin('ff00000001'.'00010006412df166010203040506')), 'CHI6.example.COM.',
        'AAIBY2/AuCccgoJbsaxcQc9TUapptP69lOjxfNuVAA2kjEA='],
]);

it('reads what a client says of its name, and answers who does what', function (): void {
    $wire = ClientFqdn::read("\x05\0\0\x04till\x04quay\x07example\0");
    expect($wire->name)->toBe('till.quay.example')->and($wire->byServer)->toBeTrue()->and($wire->none)->toBeFalse()
        ->and(ClientFqdn::read("\x00\0\0till.quay")->name)->toBe('till.quay')
        ->and(ClientFqdn::read("\x08\0\0")->none)->toBeTrue()
        ->and(ClientFqdn::read("\x04\0\0\x04till")->name)->toBe('till')
        ->and(ClientFqdn::read("\x04\0\0\x09till"))->toBeNull()->and(ClientFqdn::read("\x04\0"))->toBeNull();
    expect(bin2hex($wire->answer(LeaseNames::Server, 'a.b')))->toBe('05ffff'.'0161'.'0162'.'00')
        // The client wants to write itself and may not: overridden.
        ->and(ord(ClientFqdn::read("\x00\0\0x")->answer(LeaseNames::Server, 'x')[0]))->toBe(7)
        ->and(ord($wire->answer(LeaseNames::Client, 'x')[0]))->toBe(6)
        ->and(ord(ClientFqdn::read("\x00\0\0x")->answer(LeaseNames::Client, 'x')[0]))->toBe(4)
        ->and(ord($wire->answer(LeaseNames::Nobody, '')[0]))->toBe(14);
});

it('makes a name of what a client says, or of a pattern', function (string $said, string $pattern, ?string $name): void {
    $made = LeaseName::of($said, $pattern, Address::parse('10.32.40.7'), '00005e005301', Name::parse('crew.quay.example.'));
    expect($made === null ? null : (string) $made)->toBe($name);
})->with([
    ['Maren\'s phone', '', 'maren-s-phone.crew.quay.example.'], ['TILL-1.other.example', '', 'till-1.crew.quay.example.'],
    ['', '', null], ['---', '', null], ['', 'crew-{c}-{d}', 'crew-40-7.crew.quay.example.'],
    ['', 'p{mac}', 'p00005e005301.crew.quay.example.'],
    ['x', 'crew-{c}-{d}', 'x.crew.quay.example.'], [str_repeat('a', 80), '', str_repeat('a', 63).'.crew.quay.example.'],
    ["x\0y.\n", '', 'x-y.crew.quay.example.'], ['*', '', null],
]);

it('takes patterns that tell clients apart and give a label of a host', function (string $pattern, ?string $words): void {
    $words === null
        ? expect(LeaseName::checkPattern($pattern))->toBeNull()
        : expect(fn () => LeaseName::checkPattern($pattern))->toThrow(Malformed::class, $words);
})->with([
    ['crew-{c}-{d}', null], ['{mac}', null], ['c{a}-{b}-{c}-{d}', null], ['crew', 'same name'], ['crew-{d}', 'same name'],
    ['-{mac}', 'no label'],
    ['{mac}.x', 'no label'], ['{e}{mac}', 'no label'], [str_repeat('x', 60).'{mac}', 'no label'],
]);

/** A zone of records, to which updates are made. */
final class NamesZone
{
    /** @var list<Record> */
    public array $records = [];

    public function __construct(public Name $origin)
    {
    }

    public function make(UpdateRequest $request): Rcode
    {
        $result = UpdateRequest::fromMessage($request->toMessage(1))
            ->against($this->origin, fn (Name $n): array => array_values(array_filter($this->records,
                static fn (Record $r): bool => $r->owner->equals($n))));
        if ($result instanceof Rcode) {
            return $result;
        }
        $gone = array_map(static fn (Record $r): string => $r->identity(), $result[0]);
        $this->records = [...array_filter($this->records, static fn (Record $r): bool => ! in_array($r->identity(), $gone, true)),
            ...$result[1]];

        return Rcode::NoError;
    }

    /** @return list<string> */
    public function lines(): array
    {
        $lines = array_map(static fn (Record $r): string => "{$r->owner} {$r->type()} "
            .($r->type()->number === RecordType::DHCID ? '…' : $r->data->text()), $this->records);
        sort($lines);

        return $lines;
    }
}

it('writes a name once, follows its client, and leaves other people\'s alone', function (): void {
    $zone = new NamesZone(Name::parse('crew.quay.example.'));
    $back = new NamesZone(Name::parse('10.in-addr.arpa.'));
    $name = Name::parse('till.crew.quay.example.');
    $of = fn (string $address, string $mac): NameUpdates => new NameUpdates($name, Address::parse($address),
        ClientIdentity::ofHardware(hex2bin($mac))->at($name), 600);
    $first = $of('10.32.40.7', '00005e005301');
    expect($zone->make($first->move($zone->origin)))->toBe(Rcode::NxRrset)
        ->and($zone->make($first->take($zone->origin)))->toBe(Rcode::NoError)
        ->and($back->make($first->point($back->origin)))->toBe(Rcode::NoError)
        ->and($zone->lines())->toBe(['till.crew.quay.example. A 10.32.40.7', 'till.crew.quay.example. DHCID …'])
        ->and($back->lines())->toBe(['7.40.32.10.in-addr.arpa. PTR till.crew.quay.example.']);
    // Another client of the same name, and the same one at another address.
    $other = $of('10.32.40.8', '00005e005302');
    expect($zone->make($other->take($zone->origin)))->toBe(Rcode::YxDomain)->and($zone->make($other->move($zone->origin)))
        ->toBe(Rcode::NxRrset)
        ->and(NameUpdates::isConflict(Rcode::NxRrset))->toBeTrue()->and(NameUpdates::isConflict(Rcode::Refused))->toBeFalse();
    $moved = $of('10.32.40.9', '00005e005301');
    expect($zone->make($moved->take($zone->origin)))->toBe(Rcode::YxDomain)->and($zone->make($moved->move($zone->origin)))
        ->toBe(Rcode::NoError)
        ->and($zone->lines())->toContain('till.crew.quay.example. A 10.32.40.9')->not->toContain('till.crew.quay.example. A 10.32.40.7');
    // What ended at the old address takes nothing of the new one; another's end takes nothing at all.
    $zone->make($first->withdraw($zone->origin));
    expect($zone->make($first->leave($zone->origin)))->toBe(Rcode::YxRrset)->and($zone->make($other->withdraw($zone->origin)))
        ->toBe(Rcode::NxRrset)
        ->and($zone->lines())->toHaveCount(2);
    expect($zone->make($moved->withdraw($zone->origin)))->toBe(Rcode::NoError)->and($zone->make($moved->leave($zone->origin)))
        ->toBe(Rcode::NoError)
        ->and($zone->lines())->toBe([])
        ->and($back->make($moved->unpoint($back->origin)))->toBe(Rcode::NxRrset)->and($back->make($first->unpoint($back->origin)))
        ->toBe(Rcode::NoError)
        ->and($back->lines())->toBe([]);
    // A name that a person wrote is not taken.
    $zone->records = [new Record($name, 300, RdataTypes::fromText(RecordType::parse('A'), Fields::ofLine('10.32.0.1', $zone->origin)))];
    expect($zone->make($first->take($zone->origin)))->toBe(Rcode::YxDomain)->and($zone->make($first->move($zone->origin)))
        ->toBe(Rcode::NxRrset);
});

it('points back below a child zone, where an address has another name', function (): void {
    $child = new NamesZone(Name::parse('0/25.2.0.192.in-addr.arpa.'));
    $name = Name::parse('till.crew.quay.example.');
    $updates = new NameUpdates($name, Address::parse('192.0.2.7'), ClientIdentity::ofHardware(hex2bin('00005e005301'))->at($name), 600);
    expect($child->make($updates->point($child->origin)))->toBe(Rcode::NoError)
        ->and($child->lines())->toBe(['7.0/25.2.0.192.in-addr.arpa. PTR till.crew.quay.example.'])
        ->and($child->make($updates->unpoint($child->origin)))->toBe(Rcode::NoError)->and($child->lines())->toBe([]);
});

it('reads and answers the name of a client of DHCPv6, whose flags stand elsewhere', function (): void {
    $said = ClientFqdn::readV6("\x01\x04Till\x04quay\x07example\0");
    expect($said->name)->toBe('Till.quay.example')->and($said->byServer)->toBeTrue()->and($said->none)->toBeFalse()
        ->and(ClientFqdn::readV6("\x04")->none)->toBeTrue()->and(ClientFqdn::readV6("\x00\x04till")->name)->toBe('till')
        ->and(ClientFqdn::readV6(''))->toBeNull()->and(ClientFqdn::readV6("\x00\x09till"))->toBeNull();
    // RFC 4704 §4.1: S 1, O 2, N 4.
    expect(bin2hex($said->answerV6(LeaseNames::Server, 'till.example')))->toBe('01'.'0474696c6c'.'076578616d706c65'.'00')
        ->and(ord($said->answerV6(LeaseNames::Client, 'x')[0]))->toBe(2)->and(ord($said->answerV6(LeaseNames::Nobody, '')[0]))->toBe(6)
        ->and(strlen($said->answerV6(LeaseNames::Nobody, '')))->toBe(1);
});

it('makes a name of an IPv6 address by a pattern that gives each its own', function (): void {
    $zone = Name::parse('crew.example.');
    $of = static fn (string $address): string => (string) LeaseName::of('', 'seat-{h}', Address::parse($address), '', $zone);
    expect($of('2001:db8:36:1::1a0'))->toBe('seat-1a0.crew.example.')
        ->and($of('2001:db8:36:1:a0::1'))->toBe('seat-a0000000000001.crew.example.')->and($of('192.0.2.9'))
        ->toBe('seat-c0000209.crew.example.')
        ->and($of('2001:db8:36:1::'))->toBe('seat-0.crew.example.')
        ->and(LeaseName::checkPattern('seat-{h}', Family::V6))->toBeNull()->and(LeaseName::checkPattern('seat-{h}'))->toBeNull();
    foreach (['seat', 'seat-{c}-{d}', 'seat-{mac}', 'seat-{h}-{d}', str_repeat('x', 50).'{h}'] as $pattern) {
        expect(fn () => LeaseName::checkPattern($pattern, Family::V6))->toThrow(Malformed::class);
    }
});
