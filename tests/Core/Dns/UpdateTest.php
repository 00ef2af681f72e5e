<?php

declare(strict_types=1);

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Wire\Tsig;
use HarborPost\Core\Dns\Zone\UpdateRequest;

function rr(string $line): Record
{
    [$owner, $ttl, $type, $data] = explode(' ', $line, 4);

    return new Record(
        Name::parse($owner, Name::parse('crew.example.')),
        (int) $ttl,
        RdataTypes::fromText(RecordType::parse($type), Fields::ofLine($data, Name::parse('crew.example.'))),
    );
}

/** @param  list<string>  $zone  @return list<Record> */
function crew(
    array $zone = [
        '@ 60 SOA ns h 5 1 1 1 1', '@ 60 NS ns', 'deck 300 A 192.0.2.1', 'deck 300 A 192.0.2.2', 'bow 300 CNAME deck',
        'stern 300 TXT "x"',
    ],
): array {
    return array_map(rr(...), $zone);
}

/** @param  list<Record>  $prerequisites  @param  list<Record>  $changes */
function judged(array $prerequisites, array $changes): Rcode|array
{
    $request = UpdateRequest::fromMessage(
        Message::fromWire((new UpdateRequest(Name::parse('crew.example.'), $prerequisites, $changes))->toMessage(7)->wire()),
    );
    $result = $request instanceof Rcode
        ? $request
        : $request->against(
            Name::parse('crew.example.'),
            fn (Name $n): array => array_values(array_filter(crew(), fn (Record $r): bool => $r->owner->equals($n))),
        );
    $words = fn (array $records): array => array_map(
        fn (Record $r): string => "{$r->owner} $r->ttl {$r->type()} {$r->data->text()}",
        $records,
    );

    return $result instanceof Rcode ? $result : [$words($result[0]), $words($result[1])];
}

$a = RecordType::of(RecordType::A);
$any = RecordType::of(RecordType::ANY);
$deck = Name::parse('deck.crew.example.');
$new = Name::parse('new.crew.example.');

it('keeps prerequisites, each by its own code', function (array $prerequisites, Rcode|array $wanted): void {
    expect(judged($prerequisites, []))->toBe($wanted);
})->with([
    'set in use' => [[UpdateRequest::whole($deck, $a)], [[], []]],
    'set not in use' => [[UpdateRequest::whole($new, $a)], Rcode::NxRrset],
    'name in use' => [[UpdateRequest::whole($new, $any)], Rcode::NxDomain],
    'name free' => [[UpdateRequest::none($deck, $any)], Rcode::YxDomain],
    'set free' => [[UpdateRequest::none($deck, $a)], Rcode::YxRrset],
    'set free, and it is' => [[UpdateRequest::none($new, $a)], [[], []]],
    'exactly this set' => [[rr('deck 0 A 192.0.2.2'), rr('deck 0 A 192.0.2.1')], [[], []]],
    'less than the set' => [[rr('deck 0 A 192.0.2.2')], Rcode::NxRrset],
    'a TTL in a prerequisite' => [[rr('deck 60 A 192.0.2.2')], Rcode::FormErr],
    'outside the zone' => [[UpdateRequest::whole(Name::parse('other.example.'), $a)], Rcode::NotZone],
]);

it('changes what it may and passes over what would break the zone', function (array $changes, Rcode|array $wanted): void {
    expect(judged([], $changes))->toBe($wanted);
})->with([
    'add' => [[rr('new 60 A 192.0.2.9')], [[], ['new.crew.example. 60 A 192.0.2.9']]],
    'add one that is there' => [[rr('deck 300 A 192.0.2.1')], [[], []]],
    'another TTL is one for the set' => [
        [rr('deck 60 A 192.0.2.1')],
        [
            ['deck.crew.example. 300 A 192.0.2.1', 'deck.crew.example. 300 A 192.0.2.2'],
            ['deck.crew.example. 60 A 192.0.2.1', 'deck.crew.example. 60 A 192.0.2.2'],
        ],
    ],
    'remove one' => [[UpdateRequest::less(rr('deck 0 A 192.0.2.1'))], [['deck.crew.example. 300 A 192.0.2.1'], []]],
    'remove a set' => [
        [UpdateRequest::whole($deck, $a)],
        [['deck.crew.example. 300 A 192.0.2.1', 'deck.crew.example. 300 A 192.0.2.2'], []],
    ],
    'remove a name' => [[UpdateRequest::whole(Name::parse('stern.crew.example.'), $any)], [['stern.crew.example. 300 TXT "x"'], []]],
    'replace' => [
        [UpdateRequest::whole($deck, $a), rr('deck 300 A 192.0.2.3')],
        [['deck.crew.example. 300 A 192.0.2.1', 'deck.crew.example. 300 A 192.0.2.2'], ['deck.crew.example. 300 A 192.0.2.3']],
    ],
    'data beside an alias' => [[rr('bow 60 A 192.0.2.9')], [[], []]],
    'an alias beside data' => [[rr('deck 60 CNAME bow')], [[], []]],
    'an alias for an alias' => [
        [rr('bow 60 CNAME stern')],
        [['bow.crew.example. 300 CNAME deck.crew.example.'], ['bow.crew.example. 60 CNAME stern.crew.example.']],
    ],
    'the last NS' => [[UpdateRequest::less(rr('@ 0 NS ns'))], [[], []]],
    'the SOA and NS with everything at the top' => [[UpdateRequest::whole(Name::parse('crew.example.'), $any)], [[], []]],
    'an older SOA' => [[rr('@ 60 SOA ns h 4 1 1 1 1')], [[], []]],
    'a newer SOA' => [
        [rr('@ 60 SOA ns h 6 1 1 1 1')],
        [
            ['crew.example. 60 SOA ns.crew.example. h.crew.example. 5 1 1 1 1'],
            ['crew.example. 60 SOA ns.crew.example. h.crew.example. 6 1 1 1 1'],
        ],
    ],
    'a question type' => [[new Record($deck, 0, new HarborPost\Core\Dns\Rdata\Opaque($any, 'x'))], Rcode::FormErr],
]);

it('reads an update of independent make', function (): void {
    foreach (file(__DIR__.'/../../fixtures/tsig.tsv', FILE_IGNORE_NEW_LINES) ?: [] as $line) {
        [$what, , $time, , $wire] = explode("\t", $line);
        if ($what === 'update') {
            [, $bare] = Tsig::check((string) hex2bin($wire), [], (int) $time);
            $request = UpdateRequest::fromMessage(Message::fromWire($bare));
            expect($request)->toBeInstanceOf(UpdateRequest::class)->and((string) $request->zone)->toBe('crew.kittiwake.example.')
                ->and((string) $request->changes[0])->toBe('deck.crew.kittiwake.example. 600 IN A 192.0.2.9')
                ->and($request->prerequisites[0]->class)->toBe(254);
        }
    }
});

it('refuses a message with no zone or two', function (): void {
    expect(UpdateRequest::fromMessage(new Message(1)))->toBe(Rcode::FormErr);
});
