<?php

declare(strict_types=1);

use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;

it('encodes and decodes by shape', function (int $code, array $values, string $hex): void {
    expect(Hex::spaced(OptionTable::encode($code, $values)))->toBe($hex)->and(OptionTable::decode($code, Hex::parse($hex)))->toBe($values);
})->with([
    [1, ['255.255.255.0'], 'ff ff ff 00'], [3, ['192.0.2.1', '192.0.2.2'], 'c0 00 02 01 c0 00 02 02'], [2, ['-18000'], 'ff ff b9 b0'],
    [12, ['kiosk-07'], '6b 69 6f 73 6b 2d 30 37'],
    [19, ['on'], '01'], [26, ['1500'], '05 dc'], [51, ['86400'], '00 01 51 80'], [53, ['discover'], '01'],
    [55, ['1', '3', '6'], '01 03 06'], [33, ['10.0.0.0 192.0.2.1'], '0a 00 00 00 c0 00 02 01'],
    [121, ['10.32.0.0/12 10.40.12.1', '0.0.0.0/0 10.40.12.1'], '0c 0a 20 0a 28 0c 01 00 0a 28 0c 01'],
    [121, ['198.51.100.0/24 192.0.2.50'], '18 c6 33 64 c0 00 02 32'],
    [43, ['241=address:192.0.2.10,192.0.2.11'], 'f1 08 c0 00 02 0a c0 00 02 0b'],
    [43, ['1=text:boot', '2=hex:010203'], '01 04 62 6f 6f 74 02 03 01 02 03'],
    // RFC 3046 §2: what relays say, by name.
    [82, ['1 circuit id=text:ge1', '2 remote id=hex:00005e005307', '5 link selection=address:192.0.2.0'],
        '01 03 67 65 31 02 06 00 00 5e 00 53 07 05 04 c0 00 02 00'],
    [68, [], ''],
    // RFC 3397 §2: the pointer counts from the start of the payload.
    [119, ['eng.apple.com', 'marketing.apple.com'], '03 65 6e 67 05 61 70 70 6c 65 03 63 6f 6d 00 09 6d 61 72 6b 65 74 69 6e 67 c0 04'],
    [250, ['de ad'], 'de ad'],
]);

it('refuses values of another shape', function (int $code, array $values): void {
    expect(fn () => OptionTable::encode($code, $values))->toThrow(BadOption::class);
})->with([
    [3, []], [3, ['2001:db8::1']], [1, ['1.2.3.4', '1.2.3.4']], [26, ['70000']], [121, ['10.0.0.1/8 192.0.2.1']], [121, ['10.0.0.0/8']],
    [43, ['x']], [43, ['255=hex:00']], [119, ['a..b']], [0, ['x']], [12, ['']],
]);

it('refuses bytes that lie', function (int $code, string $hex): void {
    expect(fn () => OptionTable::decode($code, Hex::parse($hex)))->toThrow(BadOption::class);
})->with([
    [3, '01 02 03'], [121, '21 01 02 03 04 05'], [121, '18 c6 33'], [43, 'f1 09 c0 00'], [119, '03 61'], [119, 'c0 00'], [51, '01'],
    [1, ''],
]);

it('knows the registered options by one table', function (): void {
    $codes = array_map(fn ($d): int => $d->code, OptionTable::all());
    expect($codes)->toBe(array_unique($codes))->and(count($codes))->toBeGreaterThan(80)
        ->and(OptionTable::definition(66)->name)->toBe('TFTP server name')->and(OptionTable::isRegistered(230))
        ->toBeFalse();
});

it('writes a packet that an independent program reads, and reads what it writes', function (): void {
    $packet = Packet::fromClient(
        MessageType::Request,
        0xCAFE0001,
        MacAddress::parse('00:00:5e:00:53:07'),
        [50 => Address::parse('192.0.2.66')->bytes, 12 => 'kiosk', 55 => "\1\3\6\x79"],
        Address::parse('192.0.2.1'),
    );
    $python = 'import sys,binascii
from scapy.all import BOOTP,DHCP
p=BOOTP(binascii.unhexlify(sys.argv[1]))
o=dict((x[0],x[1]) for x in p[DHCP].options if isinstance(x,tuple) and len(x)>1)
print(p.op,hex(p.xid),p.giaddr,p.hops,o["message-type"],o["requested_addr"],o["hostname"].decode(),list(o["param_req_list"]))
head=BOOTP(op=2,xid=0x1234,yiaddr="192.0.2.9",giaddr="192.0.2.1",chaddr=binascii.unhexlify("00005e005307"))
ends=DHCP(options=[("message-type","offer"),("server_id","192.0.2.67"),("lease_time",3600),("router","192.0.2.1"),"end"])
print(binascii.hexlify(bytes(head/ends)).decode())';
    exec('/usr/bin/python3 -c '.escapeshellarg($python).' '.bin2hex($packet->wire()).' 2>/dev/null', $out);
    expect($out[0] ?? '')->toBe('1 0xcafe0001 192.0.2.1 1 3 192.0.2.66 kiosk [1, 3, 6, 121]');
    $offer = Packet::fromWire((string) hex2bin($out[1] ?? ''));
    expect($offer->type())->toBe(MessageType::Offer)->and((string) $offer->yourAddress)->toBe('192.0.2.9')
        ->and(OptionTable::decode(51, $offer->options[51]))->toBe(['3600'])->and((string) $offer->address(54))
        ->toBe('192.0.2.67');
});

it('cuts long options and joins them again (RFC 3396)', function (): void {
    $long = random_bytes(700);
    $packet = Packet::fromClient(MessageType::Inform, 1, MacAddress::parse('00:00:5e:00:53:07'), [250 => $long, 12 => 'x']);
    expect(Packet::fromWire($packet->wire())->options[250])->toBe($long);
});

it('reads options from the file and sname fields (option 52)', function (): void {
    $wire = Packet::fromClient(MessageType::Discover, 1, MacAddress::parse('00:00:5e:00:53:07'), [52 => "\3"])->wire();
    $wire = substr_replace($wire, "\x0c\x02hi\xff", 108, 5);
    $wire = substr_replace($wire, "\x0f\x01d\xff", 44, 4);
    $packet = Packet::fromWire($wire);
    expect($packet->options[12])->toBe('hi')->and($packet->options[15])->toBe('d')->and($packet->options)->not->toHaveKey(52);
});

it('ends junk in a clear error', function (): void {
    mt_srand(14);
    $good = Packet::fromClient(MessageType::Discover, 1, MacAddress::parse('00:00:5e:00:53:07'), [55 => "\1\3"])->wire();
    for ($i = 0; $i < 1500; $i++) {
        $bytes = substr($good, 0, mt_rand(0, 300));
        for ($j = 0; $j < 5 && $bytes !== ''; $j++) {
            $bytes[mt_rand(0, strlen($bytes) - 1)] = chr(mt_rand(0, 255));
        }
        try {
            Packet::fromWire($bytes);
            $fine = true;
        } catch (MalformedBytes $e) {
            $fine = $e->offset >= 0;
        }
        expect($fine)->toBeTrue();
    }
});
