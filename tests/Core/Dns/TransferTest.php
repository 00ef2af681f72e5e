<?php

declare(strict_types=1);

use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Serial;
use HarborPost\Core\Dns\Zone\Lapse;
use HarborPost\Core\Dns\Zone\SecondaryClock;
use HarborPost\Core\Dns\Zone\Transfer;

/** "S5" is an SOA of serial 5, anything else the last octet of an A record. */
function zoneRecord(string $word): Record
{
    $origin = Name::parse('example.');
    $text = $word[0] === 'S' ? ['SOA', 'ns.example. h.example. '.substr($word, 1).' 7200 900 1209600 300'] : ['A', "192.0.2.$word"];

    return new Record($origin, 60, RdataTypes::fromText(RecordType::parse($text[0]), Fields::ofLine($text[1])));
}

function transferred(string $words, ?int $have): Transfer
{
    $transfer = new Transfer($have === null ? null : Serial::of($have));
    foreach (explode(' ', $words) as $word) {
        $transfer->take(zoneRecord($word));
    }

    return $transfer;
}

/** @param  list<Record>  $records */
function octets(array $records): string
{
    return implode(
        ' ',
        array_map(fn (Record $r): string => $r->data instanceof Soa ? "S{$r->data->serial}" : explode('.', $r->data->text())[3], $records),
    );
}

it('reads whole transfers, steps and "nothing new"', function (
    string $words,
    ?int $have,
    string $kind,
    bool $complete,
    string $records,
    string $steps,
): void {
    $transfer = transferred($words, $have);
    expect($transfer->kind())->toBe($kind)->and($transfer->isComplete())->toBe($complete);
    expect($kind === Transfer::WHOLE ? octets($transfer->records()) : '')->toBe($records)
        ->and(
            implode(
                '; ',
                array_map(
                    fn (array $s): string => octets([$s['from']])
                        .' -'
                        .octets($s['removed'])
                        .' +'
                        .octets($s['added'])
                        .' '
                        .octets([$s['to']]),
                    $transfer->steps(),
                ),
            ),
        )->toBe($steps);
})->with([
    ['S5 1 2 3 S5', null, Transfer::WHOLE, true, 'S5 1 2 3', ''],
    ['S5 1 2', null, Transfer::WHOLE, false, 'S5 1 2', ''],
    ['S5 S5', null, Transfer::WHOLE, true, 'S5', ''],
    ['S5 1 2 S5', 3, Transfer::WHOLE, true, 'S5 1 2', ''], // a server may answer IXFR with the whole zone
    ['S5', 5, Transfer::CURRENT, true, '', ''],
    ['S4', 5, Transfer::CURRENT, true, '', ''],
    ['S6', 5, Transfer::CURRENT, false, '', ''], // does not fit UDP: ask again over TCP
    ['S5 S4 1 S5 2 3 S5', 4, Transfer::STEPS, true, '', 'S4 -1 +2 3 S5'],
    ['S5 S3 1 S4 2 S4 2 S5 3 S5', 3, Transfer::STEPS, true, '', 'S3 -1 +2 S4; S4 -2 +3 S5'],
    ['S5 S4 S5 9 S5', 4, Transfer::STEPS, true, '', 'S4 - +9 S5'],
    ['S5 S4 1 S5', 4, Transfer::STEPS, false, '', ''],
]);

it('refuses records in an order that no transfer has', function (string $words, ?int $have): void {
    transferred($words, $have);
})->with([['1 S5', null], ['S5 1 S4', null], ['S5 1 S5 2', null], ['S5 S3 1 S4 2 S3 3 S5 S5', 3], ['S5 S4 1 S5 2 S5 7', 4]])
    ->throws(Malformed::class);

it('is bounded', function (): void {
    $transfer = new Transfer(null, 3);
    array_map(fn (string $w) => $transfer->take(zoneRecord($w)), ['S5', '1', '2', '3']);
})->throws(Malformed::class);

it('knows when a secondary asks again and until when it serves', function (): void {
    $soa = zoneRecord('S5')->data;
    $clock = SecondaryClock::of($soa, 1000);
    expect($clock->nextRefresh)->toBe(8200)->and($clock->expires)->toBe(1210600)->and($clock->isDue(8199))->toBeFalse()
        ->and($clock->isDue(8200))->toBeTrue()
        ->and(SecondaryClock::of($soa, 1000, 8200)->nextRefresh)->toBe(9100)->and($clock->isExpired(1210599))
        ->toBeFalse()->and($clock->isExpired(1210600))->toBeTrue();
});

it('lets names lapse after their lifetime and writes renewals after the quiet part only', function (): void {
    $lapse = Lapse::of(1000, 400);
    expect($lapse->writes(0, 399))->toBeFalse()->and($lapse->writes(0, 400))->toBeTrue()->and($lapse->due(50))
        ->toBe(1050)->and($lapse->hasLapsed(50, 1049))->toBeFalse()->and($lapse->hasLapsed(50, 1050))->toBeTrue()
        ->and($lapse->against(1001))->toContain('before the lease ends')->and($lapse->against(900))->toBeNull()
        ->and(Lapse::of(1000, 500)->against(1000))->toContain('quiet part')
        ->and(fn () => Lapse::of(1000, 501))->toThrow(InvalidArgumentException::class)->and(fn () => Lapse::of(59, 0))
        ->toThrow(InvalidArgumentException::class);
});
