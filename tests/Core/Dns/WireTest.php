<?php

declare(strict_types=1);

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\A;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Edns;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Question;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Net\Address;

/** type, text as people write it, canonical text, wire as hex */
dataset('rdata', [
    ['A', '192.0.2.1', '192.0.2.1', 'c0000201'],
    ['AAAA', '2001:DB8::1', '2001:db8::1', '20010db8000000000000000000000001'],
    ['NS', 'NS1', 'ns1.example.', '034e5331076578616d706c6500'],
    ['CNAME', '@', 'example.', '076578616d706c6500'],
    ['PTR', 'a.b.', 'a.b.', '0161016200'],
    ['MX', '10 mail', '10 mail.example.', '000a046d61696c076578616d706c6500'],
    ['SRV', '1 2 5060 sip', '1 2 5060 sip.example.', '0001000213c403736970076578616d706c6500'],
    ['TXT', '"a b" c', '"a b" "c"', '036120620163'],
    ['TXT', '"quote \" and \255"', '"quote \" and \255"', '0d71756f7465202220616e6420ff'],
    [
        'CAA', '0 issue "ca.example.net; policy=ev"', '0 issue "ca.example.net; policy=ev"',
        '0005697373756563612e6578616d706c652e6e65743b20706f6c6963793d6576',
    ],
    [
        'SOA',
        'ns1 host 1 7200 900 2w 300',
        'ns1.example. host.example. 1 7200 900 1209600 300',
        '036e7331076578616d706c650004686f7374076578616d706c65000000000100001c20000003840012750000'.'00012c',
    ],
    ['TYPE65280', '\# 3 abcdef', '\# 3 abcdef', 'abcdef'],
    ['A', '\# 4 c0000201', '192.0.2.1', 'c0000201'],
]);

it('writes text and wire side by side', function (string $type, string $text, string $canonical, string $hex): void {
    $kind = RecordType::parse($type);
    $data = RdataTypes::fromText($kind, Fields::ofLine($text, Name::parse('example.')));
    expect($data->text())->toBe($canonical)->and(bin2hex($data->wire()))->toBe($hex);
    $again = RdataTypes::fromWire($kind, new ByteReader($data->wire()));
    expect($again->text())->toBe($canonical)
        ->and(RdataTypes::fromText($kind, Fields::ofLine($again->text()))->canonical())->toBe($again->canonical());
})->with('rdata');

it('refuses bad data and names the field', function (string $type, string $text, int $field): void {
    try {
        RdataTypes::fromText(RecordType::parse($type), Fields::ofLine($text, Name::parse('example.')));
        $this->fail('accepted');
    } catch (Malformed $e) {
        expect($e->field)->toBe($field);
    }
})->with([
    ['A', '2001:db8::1', 0], ['A', '192.0.2', 0], ['A', '192.0.2.1 x', 1], ['MX', 'ten mail', 0], ['MX', '10', 0],
    ['SRV', '1 2 70000 x', 2], ['CAA', '0 is-sue "x"', 1], ['TXT', '"'.str_repeat('x', 256).'"', 0],
    ['TYPE65280', '\# 2 abcdef', 3 - 1], ['AAAA', '\# 4 c0000201', 2],
]);

it('reads and writes a message of foreign make', function (): void {
    // RFC 1035 §4.1.4-style answer with compression, as captured from an independent server.
    $hex = '1a2b85800001000200000001'
        .'0377777707'
        .'6578616d706c6500'
        .'00010001'
        .'c00c'
        .'0005'
        .'0001'
        .'0000012c'
        .'0006'
        .'0373727 6c010'
        .'c029'
        .'00010001'
        .'0000003c'
        .'0004'
        .'c0000207'
        .'0000291000000080000000';
    $message = Message::fromWire((string) hex2bin(str_replace(' ', '', $hex)));
    expect((string) $message->questions[0])->toBe('www.example. IN A')->and(array_map(strval(...), $message->answers))
        ->toBe(['www.example. 300 IN CNAME srv.example.', 'srv.example. 60 IN A 192.0.2.7'])
        ->and($message->edns?->udpSize)->toBe(4096)->and($message->edns?->dnssecOk)->toBeTrue()
        ->and($message->flagNames())->toBe(['QR', 'AA', 'RD', 'RA']);
    expect(Message::fromWire($message->wire()))->toEqual($message);
});

it('cuts an answer at whole record sets and says so', function (): void {
    $name = Name::parse('many.example.');
    $answers = array_map(fn (int $i): Record => new Record($name, 60, A::of(Address::parse("192.0.2.$i"))), range(1, 60));
    $reply = Message::query(7, new Question($name, RecordType::of(1)), edns: new Edns)->reply(Rcode::NoError, $answers);
    $cut = Message::fromWire($reply->wire(512));
    expect($cut->truncated)->toBeTrue()->and($cut->answers)->toBe([])->and(strlen($reply->wire(512)))
        ->toBeLessThanOrEqual(512)->and(Message::fromWire($reply->wire())->answers)->toHaveCount(60)->and($cut->edns)
        ->not->toBeNull();
});

it('agrees with an independent codec on random messages', function (): void {
    mt_srand(11);
    $label = fn (): string => implode('', array_map(fn (): string => chr(mt_rand(97, 122)), range(1, mt_rand(1, 9))));
    $lines = [];
    for ($i = 0; $i < 40; $i++) {
        $zone = Name::parse($label().'.example.');
        $records = [];
        for ($j = mt_rand(1, 12); $j > 0; $j--) {
            [$type, $text] = [
                ['A', '192.0.2.'.mt_rand(0, 255)], ['AAAA', '2001:db8::'.dechex(mt_rand(1, 65535))], ['MX', mt_rand(0, 9).' '.$label()],
                ['TXT', '"'.$label().' '.$label().'"'], ['SRV', '1 2 3 '.$label()], ['NS', $label()],
            ][mt_rand(0, 5)];
            $records[] = new Record(
                Name::parse($label(), $zone),
                mt_rand(0, 86400),
                RdataTypes::fromText(RecordType::parse($type), Fields::ofLine($text, $zone)),
            );
        }
        $lines[] = [
            bin2hex(Message::query($i, new Question($zone, RecordType::of(255)))->reply(Rcode::NoError, $records)->wire()),
            implode('|', array_map(strval(...), $records)),
        ];
    }
    $python = 'import sys,binascii,dns.message
for l in sys.stdin:
    m=dns.message.from_wire(binascii.unhexlify(l.strip()))
    out=[]
    for s in m.answer:
        for r in s: out.append("%s %d IN %s %s"%(s.name,s.ttl,dns.rdatatype.to_text(s.rdtype),r))
    print("|".join(out)+"#"+binascii.hexlify(m.to_wire()).decode())';
    $process = proc_open(['/usr/bin/python3', '-c', $python], [['pipe', 'r'], ['pipe', 'w']], $pipes);
    fwrite($pipes[0], implode("\n", array_column($lines, 0))."\n");
    fclose($pipes[0]);
    foreach (explode("\n", trim((string) stream_get_contents($pipes[1]))) as $i => $row) {
        [$theirs, $wire] = explode('#', $row);
        $sorted = function (string $text): array {
            $parts = explode('|', preg_replace('/ \d+ IN /', ' IN ', $text));
            sort($parts);

            return array_values(array_unique($parts));
        };
        expect($sorted($theirs))->toBe($sorted($lines[$i][1]))
            ->and($sorted(implode('|', array_map(strval(...), Message::fromWire((string) hex2bin($wire))->answers))))
            ->toBe($sorted($lines[$i][1]));
    }
    proc_close($process);
});

it('ends junk in a clear error, whatever it is', function (): void {
    mt_srand(12);
    $good = Message::query(1, new Question(Name::parse('a.b.example.'), RecordType::of(1)))
        ->reply(Rcode::NoError, [new Record(Name::parse('a.b.example.'), 5, A::of(Address::parse('192.0.2.1')))])
        ->wire();
    for ($i = 0; $i < 3000; $i++) {
        $bytes = $i % 2 === 0 ? implode('', array_map(fn (): string => chr(mt_rand(0, 255)), range(0, mt_rand(0, 200)))) : $good;
        for ($j = mt_rand(1, 6); $j > 0 && $bytes !== ''; $j--) {
            $bytes[mt_rand(0, strlen($bytes) - 1)] = chr(mt_rand(0, 255));
        }
        try {
            Message::fromWire($bytes);
            $fine = true;
        } catch (MalformedBytes $e) {
            $fine = $e->offset >= 0 && $e->getMessage() !== '';
        }
        expect($fine)->toBeTrue();
    }
});
