<?php

declare(strict_types=1);

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\LeaseQuery\LeaseQueryV6;
use HarborPost\Core\Dhcp\LeaseQuery\QueryKind;
use HarborPost\Core\Dhcp\V6\Code;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Dhcp\V6\Message;
use HarborPost\Core\Dhcp\V6\MessageType;
use HarborPost\Core\Dhcp\V6\OptionList;
use HarborPost\Core\Dhcp\V6\StatusCode;
use HarborPost\Core\Net\Address;

const ASKER = '00030001 0200 5e00 5399';

/** @param  array<string, mixed>  $more */
function heldV6(array $more = []): array
{
    return $more + [
        'address' => '2001:db8:36:1::1000', 'length' => 128, 'client' => (string) Duid::tryFrom((string) hex2bin('0003000102005e005301')),
        'starts' => 1_800_000_000, 'ends' => 1_800_003_600, 'preferred' => 1_800_001_800,
    ];
}

function replyV6(array $options): Message
{
    return new Message(MessageType::LeaseQueryReply, 1, new OptionList($options));
}

it('lays questions into the bytes of RFC 5007 §4.1.2.1', function (): void {
    $self = Duid::tryFrom((string) hex2bin(str_replace(' ', '', ASKER)));
    // Message 14, transaction; option 1: ours; option 44: kind, link, and what is asked by.
    $head = '0e 0a0b0c 0001 000a '.ASKER;
    expect(bin2hex(LeaseQueryV6::ofAddress(0x0A0B0C, $self, Address::parse('2001:db8::7'))->wire()))->toBe(str_replace(' ', '', $head
        .'002c 002d 01 '.str_repeat('00', 16).' 0005 0018 20010db8000000000000000000000007 00000000 00000000'))
        ->and(bin2hex(LeaseQueryV6::ofLink(0x0A0B0C, $self, Address::parse('2001:db8:1::'))->wire()))->toBe(str_replace(' ', '', $head
        .'002c 0011 04 20010db8000100000000000000000000'))
        ->and(bin2hex(LeaseQueryV6::ofClient(0x0A0B0C, $self, $self)->wire()))->toBe(str_replace(' ', '', $head
        .'002c 001f 02 '.str_repeat('00', 16).' 0001 000a '.ASKER));
});

it('reads its own questions, and says what is wrong with others as the standard does', function (): void {
    $self = Duid::ofName('x');
    $read = LeaseQueryV6::read(LeaseQueryV6::ofAddress(7, $self, Address::parse('2001:db8::7')));
    expect($read->kind)->toBe(QueryKind::Address)->and((string) $read->address())->toBe('2001:db8::7')
        ->and($read->isOfAnyLink())->toBeTrue();
    $read = LeaseQueryV6::read(LeaseQueryV6::ofLink(7, $self, Address::parse('2001:db8:1::')));
    expect($read->kind)->toBe(QueryKind::Link)->and((string) $read->link)->toBe('2001:db8:1::')->and($read->isOfAnyLink())->toBeFalse();
    $ask = fn (string $query, bool $named = true): mixed => LeaseQueryV6::read(new Message(MessageType::LeaseQuery, 7, new OptionList([
        ...($named ? [[Code::CLIENT_ID, $self->bytes]] : []), [LeaseQueryV6::QUERY, $query],
    ])));
    $zero = str_repeat("\0", 16);
    expect($ask("\x09$zero"))->toBe(StatusCode::UnknownQueryType)->and($ask(''))->toBe(StatusCode::MalformedQuery)
        ->and($ask("\x04".substr($zero, 1)))->toBe(StatusCode::MalformedQuery)->and($ask("\x01$zero"))->toBe(StatusCode::MalformedQuery)
        ->and($ask("\x02$zero"))->toBe(StatusCode::MalformedQuery)->and($ask("\x04$zero", false))->toBe(StatusCode::MalformedQuery)
        ->and($ask("\x01$zero\0\5\0\x18".$zero))->toBe(StatusCode::MalformedQuery)
        ->and(LeaseQueryV6::read(new Message(MessageType::LeaseQuery, 7, new OptionList)))->toBe(StatusCode::MalformedQuery);
});

it('tells what a client has, and reads it back by its own clock', function (): void {
    $prefix = heldV6(['address' => '2001:db8:36:8000::', 'length' => 56, 'starts' => 1_800_000_030]);
    $data = LeaseQueryV6::data([heldV6(), $prefix], 1_800_000_060);
    // What is left of its times, and that it was heard thirty seconds ago.
    expect(bin2hex($data))->toBe(str_replace(' ', '', '0001 000a 0003000102005e005301'
        .'0005 0018 20010db8003600010000000000001000 000006cc 00000dd4'
        .'001a 0019 000006cc 00000dd4 38 20010db8003680000000000000000000'
        .'002e 0004 0000001e'));
    $told = LeaseQueryV6::told(replyV6([[LeaseQueryV6::CLIENT_DATA, $data]]), 1_800_000_060);
    expect(array_column($told, 'length', 'address'))->toBe(['2001:db8:36:1::1000' => 128, '2001:db8:36:8000::' => 56])
        ->and(array_column($told, 'ends'))->toBe([1_800_003_600, 1_800_003_600])->and($told[0]['preferred'])->toBe(1_800_001_800)
        ->and($told[0]['starts'])->toBe(1_800_000_030)->and($told[0]['state'])->toBe('active')
        ->and($told[0]['client'])->toBe(heldV6()['client']);
    // Without an end, and over.
    [$for, $over] = LeaseQueryV6::told(replyV6([
        [LeaseQueryV6::CLIENT_DATA, LeaseQueryV6::data([heldV6(['ends' => 0x7FFFFFFF])], 1_800_000_060)],
        [LeaseQueryV6::CLIENT_DATA, LeaseQueryV6::data([heldV6(['ends' => 1_800_000_001])], 1_800_000_060)],
    ]), 1_800_000_060);
    expect($for['ends'])->toBe(0x7FFFFFFF)->and($over['state'])->toBe('expired');
});

it('goes there and back for any leases', function (): void {
    mt_srand(5460);
    for ($i = 0; $i < 500; $i++) {
        $now = mt_rand(1_700_000_000, 1_900_000_000);
        $length = [128, 56, 48, 64][mt_rand(0, 3)];
        $bytes = random_bytes(intdiv($length, 8));
        $lease = heldV6([
            'address' => (string) Address::fromBytes(str_pad($bytes, 16, "\0")), 'length' => $length, 'starts' => $now - mt_rand(0, 100000),
            'ends' => $now + mt_rand(1, 100000), 'preferred' => $now + mt_rand(0, 100),
        ]);
        [$told] = LeaseQueryV6::told(replyV6([[LeaseQueryV6::CLIENT_DATA, LeaseQueryV6::data([$lease], $now)]]), $now);
        expect($told)->toEqual($lease + ['state' => 'active', 'mac' => '02:00:5e:00:53:01']);
    }
});

it('refuses what is no whole answer', function (string $data): void {
    expect(fn () => LeaseQueryV6::told(replyV6([[LeaseQueryV6::CLIENT_DATA, (string) hex2bin(str_replace(' ', '', $data))]]), 0))
        ->toThrow(MalformedBytes::class);
})->with([
    'nothing' => '', 'no client' => '002e 0004 00000001', 'not when it was heard' => '0001 000a 0003000102005e005301',
    'a short address' => '0001 000a 0003000102005e005301 002e 0004 00000001 0005 0003 200101',
    'a length of 200' => '0001 000a 0003000102005e005301 002e 0004 00000001 001a 0019 00000001 00000001 c8 '
        .'20010db8003680000000000000000000',
    'cut off' => '0001 00ff 0003',
]);
