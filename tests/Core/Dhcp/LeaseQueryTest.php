<?php

declare(strict_types=1);

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\LeaseQuery\LeaseQuery;
use HarborPost\Core\Dhcp\LeaseQuery\LeaseState;
use HarborPost\Core\Dhcp\LeaseQuery\QueryStatus;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;

it('asks for all leases with nothing to go by: hardware and addresses are zero, options absent (RFC 6926 §7.2)', function (): void {
    $wire = LeaseQuery::ofAll(0x01020304)->wire();
    expect(bin2hex(substr($wire, 0, 44)))->toBe('0100000001020304'.str_repeat('00', 36))
        ->and(bin2hex(substr($wire, 236, 7)))->toBe('6382536335010e')->and(substr($wire, -1))->toBe("\xff");
    $read = LeaseQuery::fromWire($wire);
    expect($read->type)->toBe(MessageType::BulkLeaseQuery)->and($read->xid)->toBe(0x01020304)->and($read->mac)->toBeNull()
        ->and($read->client())->toBe('')->and($read->since())->toBeNull()
        ->and(LeaseQuery::fromWire(LeaseQuery::ofAll(7, 1_700_000_000)->wire())->since())->toBe(1_700_000_000);
    $framed = LeaseQuery::ofAll(7)->framed();
    expect(unpack('n', $framed)[1])->toBe(strlen($framed) - 2);
});

it('asks for one lease by address, by hardware address or by client identifier (RFC 4388 §6.2)', function (): void {
    $relay = Address::parse('192.0.2.1');
    $byAddress = LeaseQuery::fromWire(LeaseQuery::of(1, Address::parse('192.0.2.20'), $relay)->wire());
    $byMac = LeaseQuery::fromWire(LeaseQuery::of(2, MacAddress::tryParse('00:00:5e:00:53:17'), $relay)->wire());
    $byClient = LeaseQuery::fromWire(LeaseQuery::of(3, "\xff\x01\x02", $relay)->wire());
    expect((string) $byAddress->address)->toBe('192.0.2.20')->and($byAddress->mac)->toBeNull()
        ->and((string) $byAddress->relay)->toBe('192.0.2.1')
        ->and((string) $byMac->address)->toBe('0.0.0.0')->and((string) $byMac->mac)->toBe('00:00:5e:00:53:17')
        ->and($byMac->client())->toBe('')
        ->and(bin2hex($byClient->client()))->toBe('ff0102')->and($byClient->mac)->toBeNull()
        ->and($byClient->type)->toBe(MessageType::LeaseQuery);
});

it('reckons times by the clock of the server that tells them (RFC 6926 §6.2.3)', function (): void {
    $asked = LeaseQuery::ofAll(9);
    $told = LeaseQuery::fromWire($asked->answered(
        MessageType::LeaseActive, Address::parse('192.0.2.20'), MacAddress::tryParse('00:00:5e:00:53:17'), "\x01abc", 'till-1',
        LeaseState::Active, starts: 1000, ends: 5000, now: 2000,
    )->wire());
    expect($told->seconds(LeaseQuery::STATE_SINCE))->toBe(1000)->and($told->seconds(51))->toBe(3000)
        ->and($told->lease(999_999))->toBe([
            'address' => '192.0.2.20', 'mac' => '00:00:5e:00:53:17', 'client' => '01616263', 'name' => 'till-1', 'state' => 'active',
            'starts' => 1000, 'ends' => 5000,
        ]);
});

it('takes what other servers leave out, and tells no lease where there is none', function (): void {
    $bare = fn (string $options, int $type = 13, string $address = "\xc0\x00\x02\x14"): LeaseQuery => LeaseQuery::fromWire(
        "\2\1\6\0\0\0\0\1\0\0\0\0".$address.str_repeat("\0", 12)."\x00\x00\x5e\x00\x53\x17".str_repeat("\0", 202)."\x63\x82\x53\x63"
            ."\x35\x01".chr($type).$options."\xff",
    );
    // RFC 4388 alone: no state, no base time; 91 says when the client was heard, 51 what is left.
    expect($bare("\x33\x04\0\0\x0e\x10\x5b\x04\0\0\0\x3c")->lease(10_000))->toMatchArray(
        ['state' => 'active', 'starts' => 9940, 'ends' => 13_600, 'mac' => '00:00:5e:00:53:17', 'client' => '', 'name' => ''],
    );
    expect($bare("\x33\x04\xff\xff\xff\xff")->lease(10_000)['ends'])->toBe(0x7FFFFFFF)
        ->and($bare('', 11)->lease(10_000))->toBeNull()->and($bare('', 12)->lease(10_000))->toBeNull()
        ->and($bare('', 13, "\0\0\0\0")->lease(10_000))->toBeNull()
        ->and($bare("\x9c\x01\x05", 11)->lease(10_000)['state'])->toBe('declined')
        ->and($bare("\x9c\x01\x04", 11)->lease(10_000)['state'])->toBe('released')
        ->and($bare("\x9c\x01\x63")->lease(10_000)['state'])->toBe('active')
        ->and($bare("\x33\x02\0\0")->lease(10_000)['ends'])->toBe(10_000);
});

it('says how a bulk answer ended (RFC 6926 §6.2.2)', function (QueryStatus $status): void {
    $done = LeaseQuery::fromWire(LeaseQuery::ofAll(9)->done($status, 'why')->wire());
    expect($done->type)->toBe(MessageType::LeaseQueryDone)->and($done->status())->toBe($status)->and($done->lease(1))->toBeNull()
        ->and($done->status()->words())->not->toBe('');
})->with(QueryStatus::cases());

it('reads no other message, and none that is cut', function (): void {
    $wire = LeaseQuery::ofAll(9)->wire();
    foreach ([0, 1, 11, 100, 239, 241] as $length) {
        expect(fn () => LeaseQuery::fromWire(substr($wire, 0, $length)))->toThrow(MalformedBytes::class);
    }
    expect(fn () => LeaseQuery::fromWire(str_replace("\x35\x01\x0e", "\x35\x01\x01", $wire)))->toThrow(MalformedBytes::class)
        ->and(fn () => LeaseQuery::fromWire(str_replace("\x63\x82\x53\x63", "\x63\x82\x53\x64", $wire)))->toThrow(MalformedBytes::class);
    // Whatever comes is read or refused, and nothing else.
    mt_srand(6926);
    for ($i = 0; $i < 2000; $i++) {
        $bytes = $wire;
        for ($k = mt_rand(1, 6); $k > 0; $k--) {
            $bytes[mt_rand(0, strlen($bytes) - 1)] = chr(mt_rand(0, 255));
        }
        try {
            LeaseQuery::fromWire(substr($bytes, 0, mt_rand(200, strlen($bytes))))->lease(1);
        } catch (MalformedBytes) {
        }
    }
    expect(LeaseState::ofWord('released'))->toBe(LeaseState::Released)->and(LeaseState::Transitioning->word())->toBe('expired');
});
