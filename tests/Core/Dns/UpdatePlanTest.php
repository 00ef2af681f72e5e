<?php

declare(strict_types=1);

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Zone\UpdatePlan;
use HarborPost\Core\Dns\Zone\UpdateRequest;

/**
 * A server that takes updates as RFC 2136 has it.
 *
 * @param  list<string>  $zone  lines
 * @param  list<UpdateRequest>  $updates
 * @return array{list<string>, ?Rcode} the zone after them, sorted, and what refused one
 */
function zoneAfter(array $zone, array $updates): array
{
    $refused = null;
    foreach ($updates as $update) {
        // What is sent is what is read at the other end.
        $update = UpdateRequest::fromMessage(Message::fromWire($update->toMessage(7)->wire()));
        $nodes = [];
        foreach (array_map(Record::ofLine(...), $zone) as $record) {
            $nodes[$record->owner->sortKey()][] = $record;
        }
        $node = fn (Name $owner): array => $nodes[$owner->sortKey()] ?? [];
        $outcome = $update->against(Name::parse('quay.example.'), $node);
        if ($outcome instanceof Rcode) {
            $refused = $outcome;
            break;
        }
        $text = fn (Record $r): string => "{$r->owner->lower()} $r->ttl {$r->type()} {$r->data->text()}";
        $zone = [...array_diff($zone, array_map($text, $outcome[0])), ...array_map($text, $outcome[1])];
    }
    sort($zone);

    return [$zone, $refused];
}

/**
 * @param  list<string>  $from
 * @param  list<string>  $to
 * @return list<UpdateRequest>
 */
function updatesFrom(array $from, array $to): array
{
    $soa = array_values(array_filter($to, fn (string $l): bool => str_contains($l, ' SOA ')))[0];

    return UpdatePlan::of(
        Name::parse('quay.example.'),
        array_map(Record::ofLine(...), $from),
        array_map(Record::ofLine(...), array_values(array_diff($from, $to))),
        array_map(Record::ofLine(...), array_values(array_diff($to, $from))), Record::ofLine($soa),
    );
}

const UPDATED_APEX = ['quay.example. 300 NS ns1.quay.example.'];

it('makes one zone of another, whatever differs', function (int $seed): void {
    $random = new Random\Randomizer(new Random\Engine\Mt19937($seed));
    $zone = function (int $serial) use ($random): array {
        $lines = ["quay.example. 300 SOA ns1.quay.example. host.quay.example. $serial 3600 600 86400 300"];
        foreach (['ns1', 'ns2', 'ns3'] as $i => $ns) {
            $i > 0 && $random->getInt(0, 1) === 0 ?: $lines[] = "quay.example. 300 NS $ns.quay.example.";
        }
        foreach (range(1, 12) as $i) {
            $ttl = [60, 300][$random->getInt(0, 1)];
            $kind = $random->getInt(0, 4);
            if ($kind === 1) {
                $lines[] = "h$i.quay.example. $ttl CNAME h".(13 - $i).'.quay.example.';
            } elseif ($kind > 1) {
                foreach (range(1, $random->getInt(1, 3)) as $j) {
                    $lines[] = "h$i.quay.example. $ttl A 192.0.2.$j";
                }
                $kind === 2 ?: $lines[] = "h$i.quay.example. $ttl TXT \"seen $i\"";
            }
        }

        return $lines;
    };
    $from = $zone(7);
    $to = $zone(9);
    [$got, $refused] = zoneAfter($from, updatesFrom($from, $to));
    sort($to);
    expect($refused)->toBeNull()->and($got)->toBe($to);
})->with(range(1, 60));

it('overwrites nothing that was changed after it was read', function (): void {
    $soa = fn (int $serial): string => "quay.example. 300 SOA ns1.quay.example. host.quay.example. $serial 3600 600 86400 300";
    $read = [...UPDATED_APEX, $soa(7), 'till.quay.example. 300 A 192.0.2.1', 'kiosk.quay.example. 300 A 192.0.2.2'];
    $meant = [...UPDATED_APEX, $soa(8), 'till.quay.example. 300 A 192.0.2.9', 'kiosk.quay.example. 300 A 192.0.2.2',
        'new.quay.example. 300 A 192.0.2.3'];
    $updates = updatesFrom($read, $meant);
    $with = fn (array $cut, array $add): array => zoneAfter([...array_diff($read, $cut), ...$add], $updates);
    // The set itself was changed, extended or removed there; what is to be new is there already: nothing is done.
    foreach ([
        [['till.quay.example. 300 A 192.0.2.1'], ['till.quay.example. 300 A 192.0.2.5']],
        [[], ['till.quay.example. 300 A 192.0.2.5']],
        [['till.quay.example. 300 A 192.0.2.1'], []],
        [[], ['new.quay.example. 300 A 192.0.2.44']],
    ] as [$cut, $add]) {
        [$got, $refused] = $with($cut, $add);
        $stood = [...array_diff($read, $cut), ...$add];
        sort($stood);
        expect($got)->toBe($stood)->and($refused)->toBeIn([Rcode::NxRrset, Rcode::YxRrset]);
    }
    // A name that is not touched may change meanwhile.
    expect($with([], ['other.quay.example. 300 A 192.0.2.6'])[1])->toBeNull();
});

it('asks nothing of types that a server makes by itself', function (): void {
    $soa = Record::ofLine('quay.example. 300 SOA ns1.quay.example. host.quay.example. 8 3600 600 86400 300');
    $was = Record::ofLine('a.quay.example. 300 TXT "a"');
    $of = fn (array $unasked): array => UpdatePlan::of(Name::parse('quay.example.'), [$was], [$was],
        [Record::ofLine('a.quay.example. 300 TXT "b"')],
        $soa, $unasked);
    expect($of([])[0]->prerequisites)->toHaveCount(1)->and($of([RecordType::TXT])[0]->prerequisites)->toBe([]);
});

it('sends much in several messages that each can be sent, and raises the serial with the last', function (int $names, int $each): void {
    $soa = fn (int $serial): string => "quay.example. 300 SOA ns1.quay.example. host.quay.example. $serial 3600 600 86400 300";
    $lines = function (int $from) use ($names, $each): array {
        $lines = [];
        foreach (range(1, $names) as $n) {
            foreach (range($from, $from + $each - 1) as $i) {
                $lines[] = "h$n.quay.example. 300 TXT \"$i ".str_repeat('x', 200).'"';
            }
        }

        return $lines;
    };
    $from = [...UPDATED_APEX, $soa(7), ...$lines(0)];
    $to = [...UPDATED_APEX, $soa(99), ...$lines(intdiv($each + 1, 2))];
    $updates = updatesFrom($from, $to);
    expect(count($updates))->toBeGreaterThan(1);
    foreach ($updates as $i => $update) {
        $wire = $update->toMessage(1)->wire();
        $soas = array_filter($update->changes, fn (Record $r): bool => $r->type()->number === RecordType::SOA);
        expect(strlen($wire))->toBeLessThan(65_000)->and(count($soas))->toBe($i === array_key_last($updates) ? 1 : 0);
    }
    [$got, $refused] = zoneAfter($from, $updates);
    sort($to);
    expect($refused)->toBeNull()->and($got)->toBe($to);
})->with(['many names' => [200, 1], 'one large set' => [1, 400]]);

it('changes the serial alone where nothing else differs', function (): void {
    $soa = fn (int $serial): string => "quay.example. 300 SOA ns1.quay.example. host.quay.example. $serial 3600 600 86400 300";
    $updates = updatesFrom([...UPDATED_APEX, $soa(4294967290)], [...UPDATED_APEX, $soa(3)]);
    expect($updates)->toHaveCount(1)->and($updates[0]->prerequisites)->toBe([])->and($updates[0]->changes)->toHaveCount(1)
        ->and(zoneAfter([...UPDATED_APEX, $soa(4294967290)], $updates)[0])->toContain($soa(3));
});
