<?php

declare(strict_types=1);

use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Dhcp\V6\Association;
use HarborPost\Core\Dhcp\V6\Leased;
use HarborPost\Core\Dhcp\V6\Relay;
use HarborPost\Core\Dhcp\V6\Relayed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\Rdata\TypedFields;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Zone\Fault;
use HarborPost\Core\Dns\Zone\Zone;
use HarborPost\Core\Dns\Zone\ZoneFileReader;
use HarborPost\Core\Dns\Zone\ZoneFileWriter;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\Prefix;
use HarborPost\Core\Net\PrefixSet;
use HarborPost\Core\Planning\OpenSpace;

/*
 * Against files that independent programs made (tests/fixtures/make says how): prefix arithmetic, DNS messages and zone files, DHCP
 * packets.
 */

/** @return Generator<string, list<list<string>>> */
function foreign(string $file): Generator
{
    foreach (file(dirname(__DIR__)."/fixtures/$file", FILE_IGNORE_NEW_LINES) ?: [] as $i => $line) {
        if ($line[0] !== '#') {
            yield "$file:".($i + 1) => [explode("\t", $line)];
        }
    }
}

it('agrees on every fact of a prefix', function (array $row): void {
    // IPv4-mapped addresses are written with dots (RFC 5952 §5), which the other program does not do.
    [$text, $mask, $wildcard, $first, $last, $low, $high, $broadcast, $size, $supernet, $sibling] = array_map(
        fn (string $t): string => $t === '::ffff:ffff:ffff' ? '::ffff:255.255.255.255' : $t,
        $row,
    );
    $prefix = Prefix::parse($text);
    expect((string) $prefix)->toBe($text)->and((string) $prefix->mask())->toBe($mask)->and((string) $prefix->wildcard())->toBe($wildcard)
        ->and((string) $prefix->first)->toBe($first)->and((string) $prefix->last())->toBe($last)
        ->and((string) $prefix->usable()->first)->toBe($low)->and((string) $prefix->usable()->last)->toBe($high)
        ->and((string) ($prefix->broadcast() ?? '-'))->toBe($broadcast)->and((string) $prefix->size())->toBe($size)
        ->and((string) ($prefix->supernet() ?? '-'))->toBe($supernet)->and((string) ($prefix->sibling() ?? '-'))->toBe($sibling);
    // The same prefix in other forms.
    expect((string) Prefix::parse("$first-$last"))->toBe($text)->and($prefix->contains($prefix->last()))->toBeTrue()
        ->and($prefix->supernet()?->contains($prefix) ?? true)->toBeTrue();
    if ($prefix->family()->value === 4) {
        expect((string) Prefix::parse("$first $mask"))->toBe($text)->and((string) Prefix::parse("$first/$mask"))->toBe($text);
    }
})->with(fn () => foreign('prefixes.tsv'));

it('agrees on the fewest prefixes of a range', function (array $row): void {
    [$first, $last, $prefixes] = $row;
    $range = AddressRange::of(Address::parse($first), Address::parse($last));
    expect(implode(' ', array_map(strval(...), $range->prefixes())))->toBe($prefixes)
        ->and(implode(' ', array_map(strval(...), PrefixSet::of(...$range->prefixes())->prefixes())))->toBe($prefixes)
        ->and(array_sum(array_map(fn (Prefix $p): float => 2.0 ** ($p->family()->bits() - $p->length), $range->prefixes())))->toBe(
            (float) (string) $range->size(),
        );
})->with(fn () => foreign('ranges.tsv'));

it('agrees on unions, and on what is left open', function (array $row): void {
    [$base, $parts, $collapsed, $left] = $row;
    $read = fn (string $text): array => $text === '-' ? [] : array_map(Prefix::parse(...), explode(' ', $text));
    $set = PrefixSet::of(...$read($parts));
    expect(implode(' ', array_map(strval(...), $set->prefixes())))->toBe($collapsed)
        ->and(implode(' ', array_map(strval(...), PrefixSet::of(Prefix::parse($base))->difference($set)->prefixes())) ?: '-')->toBe($left)
        ->and(implode(' ', array_map(strval(...), OpenSpace::in(Prefix::parse($base), $read($parts))->blocks())) ?: '-')->toBe($left);
})->with(fn () => foreign('sets.tsv'));

it('reads messages of foreign make, and writes them so that they read the same', function (array $row): void {
    [$hex, $flags, $question, $answers, $authority, $additional] = $row;
    $message = Message::fromWire((string) hex2bin($hex));
    expect(implode(' ', $message->flagNames()))->toBe($flags);
    [$name, $type] = explode(' ', $question);
    expect($message->questions[0]->name->equals(Name::parse($name)))->toBeTrue()->and((string) $message->questions[0]->type)->toBe($type);
    $texts = array_slice($row, 6);
    foreach (
        [[$message->answers, (int) $answers], [$message->authority, (int) $authority], [$message->additional, (int) $additional]] as [
            $section,
            $count,
        ]
    ) {
        expect($section)->toHaveCount($count);
        // Sections keep their records; sets may come in another order.
        $meant = array_map(function (string $text): string {
            [$owner, $ttl, , $type, $data] = explode(' ', $text, 5);
            $record = new Record(Name::parse($owner), (int) $ttl, RdataTypes::fromText(RecordType::parse($type), Fields::ofLine($data)));

            return strtolower($owner).' '.$ttl.' '.$record->identity();
        }, array_splice($texts, 0, $count));
        $read = array_map(fn (Record $r): string => strtolower((string) $r->owner).' '.$r->ttl.' '.$r->identity(), $section);
        sort($meant);
        sort($read);
        expect($read)->toBe($meant);
    }
    $again = Message::fromWire($message->wire());
    expect($again)->toEqual($message)->and(strlen($message->wire()))->toBeLessThanOrEqual(strlen($hex) / 2 + 160);
})->with(fn () => foreign('messages.tsv'));

it('reads packets of foreign make, and writes them so that they read the same', function (array $row): void {
    [$hex, $op, $xid, $client, $your, $relay, $mac, $type] = $row;
    $packet = Packet::fromWire((string) hex2bin($hex));
    expect($packet->op)->toBe((int) $op)->and(sprintf('%08x', $packet->xid))->toBe($xid)
        ->and((string) $packet->clientAddress)->toBe($client)->and((string) $packet->yourAddress)->toBe($your)
        ->and((string) $packet->relayAddress)->toBe($relay)->and((string) $packet->hardware)->toBe($mac)
        ->and(strtolower($packet->type()?->name ?? ''))->toBe($type);
    foreach (array_slice($row, 8) as $pair) {
        [$code, $payload] = explode('=', $pair);
        expect(bin2hex($packet->options[(int) $code] ?? ''))->toBe($payload);
        // What an option means encodes to the same bytes again.
        expect(bin2hex(OptionTable::encode((int) $code, OptionTable::decode((int) $code, (string) hex2bin($payload)))))->toBe($payload);
    }
    expect(count($packet->options))->toBe(count($row) - 8)->and(Packet::fromWire($packet->wire()))->toEqual($packet)
        ->and($packet->type())->toBeInstanceOf(MessageType::class);
})->with(fn () => foreign('packets.tsv'));

it('reads packets of DHCPv6 of foreign make through their relays, and writes the same bytes', function (array $row): void {
    [$hex, $relays, $type, $transaction, $client, $server, $associations, $asked] = $row;
    $read = Relayed::fromWire((string) hex2bin($hex));
    $said = implode(' ', array_map(
        static fn (Relay $r): string => "$r->hops,$r->link,$r->peer,".bin2hex((string) $r->options->first(18)),
        $read->relays,
    ));
    $message = $read->message;
    $leases = implode(' ', array_map(
        static fn (Association $a): string => "{$a->kind->value},$a->iaid,$a->t1,$a->t2,"
            .implode('', array_map(static fn (Leased $l): string => "$l->net,$l->preferred,$l->valid", $a->leases)),
        $message->associations(),
    ));
    expect($said ?: '-')->toBe($relays)->and($message->type->value)->toBe((int) $type)
        ->and(sprintf('%06x', $message->transaction))->toBe($transaction)
        ->and(bin2hex($message->client()->bytes ?? ''))->toBe($client)->and(bin2hex($message->server()->bytes ?? '') ?: '-')->toBe($server)
        ->and($leases ?: '-')->toBe($associations)->and(implode(',', $message->asked() ?? []) ?: '-')->toBe($asked)
        ->and(bin2hex($read->wire()))->toBe($hex);
    foreach (array_slice($row, 8) as $option) {
        [$code, $payload] = preg_split('/[=:]/', $option, 2);
        $bytes = (string) $message->options->first((int) $code);
        str_contains($option, '=')
            ? expect(bin2hex($bytes))->toBe($payload)
            : expect(implode(' ', OptionTable::decode((int) $code, $bytes, Family::V6)))->toBe($payload)
                ->and(OptionTable::encode((int) $code, explode(' ', $payload), Family::V6))->toBe($bytes);
    }
    foreach ($message->associations() as $one) {
        expect(Association::fromWire($one->kind, $one->wire()))->toEqual($one);
    }
})->with(fn () => foreign('packets6.tsv'));

it('reads zone files as an independent reader does', function (string $stem, string $origin): void {
    $folder = dirname(__DIR__).'/fixtures/zones';
    $faults = [];
    $reader = new ZoneFileReader(Name::parse($origin), function (Fault $f) use (&$faults): void {
        $f->severity === 'error' && $faults[] = "$f->line:$f->column $f->message";
    });
    $zone = Zone::of(Name::parse($origin), $reader->read(file("$folder/$stem.zone") ?: []));
    expect($faults)->toBe([]);
    $rows = [];
    foreach ($zone->records() as $record) {
        $rows[] = implode(
            "\t",
            [strtolower((string) $record->owner), $record->ttl, $record->type()->number, bin2hex($record->data->canonical())],
        );
    }
    expect(implode("\n", $rows)."\n")->toBe(strtolower((string) file_get_contents("$folder/$stem.wire")));
    // Printed, read and printed again: the same bytes.
    $print = fn (Zone $z): string => implode('', iterator_to_array(ZoneFileWriter::lines($z), false));
    $once = $print($zone);
    $second = Zone::of(
        Name::parse($origin),
        (new ZoneFileReader(Name::parse($origin), fn (Fault $f) => test()->fail($f->message)))->read(explode("\n", $once)),
    );
    expect($print($second))->toBe($once);
})->with([['plain', 'kittiwake.example.'], ['tricky', 'kittiwake.example.'], ['reverse', '2.0.192.in-addr.arpa.']]);

it('takes TTL and class in either order, and times with units', function (string $line, string $record): void {
    $zone = Zone::of(
        Name::parse('x.example.'),
        (
            new ZoneFileReader(Name::parse('x.example.'), fn (Fault $f) => $f->severity === 'error' ? test()->fail($f->message) : null)
        )->read(["$line\n"]),
    );
    expect((string) iterator_to_array($zone->records(), false)[0])->toBe($record);
})->with([
    ['a 60 IN A 192.0.2.1', 'a.x.example. 60 IN A 192.0.2.1'], ['a IN 60 A 192.0.2.1', 'a.x.example. 60 IN A 192.0.2.1'],
    ['a in 1h30m a 192.0.2.1', 'a.x.example. 5400 IN A 192.0.2.1'], ['a 0 A 192.0.2.1', 'a.x.example. 0 IN A 192.0.2.1'],
    ['@ 60 MX 10 @', 'x.example. 60 IN MX 10 x.example.'],
]);

it('has each record type in text and on the wire as others have it', function (array $row): void {
    [$type, $text, $wire, $canonical] = $row;
    $kind = RecordType::parse($type);
    $data = RdataTypes::fromText($kind, Fields::ofLine($text));
    expect(bin2hex($data->wire()))->toBe($wire)->and(bin2hex($data->canonical()))->toBe($canonical);
    $read = RdataTypes::fromWire($kind, new HarborPost\Core\Bytes\ByteReader((string) hex2bin($wire)));
    expect($read->text())->toBe($data->text())
        ->and(bin2hex(RdataTypes::fromText($kind, Fields::ofLine($read->text()))->canonical()))->toBe($canonical);
    // As fields of a form and back.
    $values = TypedFields::values($data, Name::parse('example.'));
    expect(count($values))->toBeGreaterThanOrEqual(count(TypedFields::of($kind)))
        ->and(
            bin2hex(
                RdataTypes::fromText($kind, Fields::ofLine(TypedFields::compose($kind, $values), Name::parse('example.')))->canonical(),
            ),
        )
        ->toBe($canonical);
    // In a zone file, and in the generic form of RFC 3597.
    foreach (["x 60 IN $type $text", "x 60 IN TYPE$kind->number \\# ".(strlen($wire) / 2)." $wire"] as $line) {
        $records = iterator_to_array(
            (new ZoneFileReader(Name::parse('example.'), fn (Fault $f) => test()->fail("$line: $f->message")))->read(["$line\n"]),
            false,
        );
        expect(bin2hex($records[0]->data->wire()))->toBe($wire);
    }
    // One byte less or more than the data is refused or another value, never the same.
    foreach ([substr($wire, 0, -2), $wire.'00'] as $other) {
        try {
            expect(bin2hex(RdataTypes::fromWire($kind, new HarborPost\Core\Bytes\ByteReader((string) hex2bin($other)))->wire()))
                ->not->toBe($wire);
        } catch (HarborPost\Core\Bytes\MalformedBytes|HarborPost\Core\Dns\Malformed $e) {
            expect($e->getMessage())->not->toBe('');
        }
    }
})->with(fn () => foreign('rdata.tsv'));

it('refuses data that its standard forbids', function (string $type, string $text, string $standard): void {
    try {
        RdataTypes::fromText(RecordType::parse($type), Fields::ofLine($text));
    } catch (HarborPost\Core\Dns\Malformed $e) {
        expect($e->standard)->toContain($standard);

        return;
    }
    test()->fail('accepted');
})->with([
    ['DS', '1 8 2 abcd', 'RFC 4509'], ['DS', '1 8 2 abc', 'RFC 1035'], ['TLSA', '3 1 1 00', 'RFC 6698'],
    ['SSHFP', '4 2 00', 'RFC 6594'], ['DNSKEY', '256 2 8 AAAA', 'RFC 4034'], ['DNSKEY', '256 3 8 AAA', 'RFC 4648'],
    ['NAPTR', '1 1 "u" "x" "!a!b!" y.', 'RFC 3403'],
    ['NAPTR', '1 1 "?" "x" "" y.', 'RFC 3403'], ['SVCB', '0 . port=1', 'RFC 9460'], ['SVCB', '1 . port=1 port=2', 'RFC 9460'],
    ['SVCB', '1 . mandatory=port', 'RFC 9460'], ['SVCB', '1 . mandatory=mandatory', 'RFC 9460'],
    ['SVCB', '1 . no-default-alpn', 'RFC 9460'],
    ['SVCB', '1 . port=70000', 'RFC 9460'], ['SVCB', '1 . ipv4hint=2001:db8::1', 'RFC 9460'], ['SVCB', '1 . wrong=1', 'RFC 9460'],
    ['SVCB', '1 . alpn=', 'RFC 9460'], ['HTTPS', '1', 'RFC 1035'], ['EUI48', '00:00:5e:00:53:2a', 'RFC 7043'],
    ['EUI48', '00-00-5e-00-53', 'RFC'],
    ['LOC', '91 N 0 E 0m', 'RFC 1876'], ['LOC', '1 60 N 0 E 0m', 'RFC 1876'], ['LOC', '1 N 0 E zero', 'RFC 1876'],
    ['LOC', '1 N', 'RFC 1035'], ['URI', '1 1 ""', 'RFC 1035'], ['HINFO', '"a"', 'RFC 1035'], ['OPENPGPKEY', '!', 'RFC 4648'],
    ['CERT', 'WRONG 1 1 AAAA', 'RFC 1035'], ['RP', 'a..b. .', 'RFC 1035'],
]);
