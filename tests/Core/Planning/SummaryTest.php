<?php

declare(strict_types=1);

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\InterfaceId;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix;
use HarborPost\Core\Net\PrefixSet;
use HarborPost\Core\Planning\Evidence;
use HarborPost\Core\Planning\Renumbering;
use HarborPost\Core\Planning\Summary;

/** The fewest prefixes inside a /28 that cover a set with at most so much surplus, by trying every set of aligned prefixes. */
function fewestByTrying(PrefixSet $set, float $tolerance): int
{
    $wanted = array_sum(array_map(fn ($r): int => $r->size()->toInt(), $set->ranges()));
    $solve = function (Prefix $node) use (&$solve, $set): array {
        $inside = $set->intersection(PrefixSet::of($node));
        if ($inside->isEmpty()) {
            return [0 => 0];
        }
        $covered = array_sum(array_map(fn ($r): int => $r->size()->toInt(), $inside->ranges()));
        $found = [1 => $node->size()->toInt() - $covered];
        if ($node->length < 32) {
            [$a, $b] = $node->halves();
            foreach ($solve($a) as $i => $x) {
                foreach ($solve($b) as $j => $y) {
                    $found[$i + $j] = min($found[$i + $j] ?? PHP_INT_MAX, $x + $y);
                }
            }
        }

        return $found;
    };
    $table = $solve(Prefix::parse('10.0.0.0/27'));
    ksort($table);
    foreach ($table as $count => $surplus) {
        if ($surplus <= $tolerance * $wanted) {
            return $count;
        }
    }

    return -1;
}

it('covers exactly, and as few as possible with a tolerance', function (): void {
    mt_srand(13);
    for ($round = 0; $round < 150; $round++) {
        $parts = array_map(
            fn (): Prefix => Prefix::around(Address::parse('10.0.0.'.mt_rand(0, 31)), mt_rand(29, 32)),
            range(1, mt_rand(1, 7)),
        );
        $set = PrefixSet::of(...$parts);
        foreach ([0.0, 0.1, 0.5, 2.0] as $tolerance) {
            $summary = Summary::of($set, $tolerance);
            expect(count($summary->prefixes))->toBe(fewestByTrying($set, $tolerance))
                ->and($set->difference(PrefixSet::of(...$summary->prefixes))->isEmpty())->toBeTrue()
                ->and($summary->surplus)->toBeLessThanOrEqual($tolerance + 1e-9);
        }
    }
});

it('keeps the families apart', function (): void {
    $summary = Summary::of(
        PrefixSet::of(
            Prefix::parse('2001:db8::/65'),
            Prefix::parse('2001:db8:0:0:8000::/66'),
            Prefix::parse('192.0.2.0/25'),
            Prefix::parse('192.0.2.128/26'),
        ),
        0.34,
    );
    expect(array_map(strval(...), $summary->prefixes))->toBe(['192.0.2.0/24', '2001:db8::/64'])
        ->and(Summary::of(PrefixSet::of())->prefixes)->toBe([]);
});

it('moves each address by its distance from the start', function (string $from, string $to, string $old, ?string $new): void {
    expect(
        ($a = Renumbering::between(Prefix::parse($from), Prefix::parse($to))->of(Address::parse($old))) === null ? null : (string) $a,
    )->toBe($new);
})->with([
    ['10.0.0.0/24', '10.9.0.0/24', '10.0.0.7', '10.9.0.7'],
    ['10.0.0.0/24', '10.9.0.0/23', '10.0.0.254', '10.9.0.254'],
    ['10.0.0.0/24', '10.9.0.0/25', '10.0.0.100', '10.9.0.100'],
    ['10.0.0.0/24', '10.9.0.0/25', '10.0.0.254', '10.9.0.126'],
    ['10.0.0.0/24', '10.9.0.0/25', '10.0.0.130', null],
    ['10.0.0.0/24', '10.9.0.0/25', '10.1.0.1', null],
    ['2001:db8::/64', '2001:db8:1::/64', '2001:db8::a:b', '2001:db8:1::a:b'], ['10.0.0.0/24', '2001:db8::/64', '10.0.0.1', null],
]);

it('lists old and new with what is in the way', function (): void {
    $move = Renumbering::between(Prefix::parse('10.0.0.0/24'), Prefix::parse('10.9.0.0/25'));
    $rows = $move->table(
        array_map(Address::parse(...), ['10.0.0.1', '10.0.0.5', '10.0.0.127', '10.0.0.200', '10.0.0.133', '10.0.0.249']),
        fn (Address $a): ?string => (string) $a === '10.9.0.5' ? 'till-5' : null,
    );
    $told = fn (array $r): array => [(string) $r['old'], $r['new'] === null ? null : (string) $r['new'], $r['conflict']];
    expect(array_map($told, $rows))->toBe([
        ['10.0.0.1', '10.9.0.1', null],
        ['10.0.0.5', '10.9.0.5', 'till-5'],
        ['10.0.0.127', '10.9.0.127', '10.9.0.127 cannot be given to a host'],
        ['10.0.0.200', '10.9.0.72', null], ['10.0.0.133', null, 'the target is too small for it'], ['10.0.0.249', '10.9.0.121', null],
    ])->and((string) $move->ofRange(AddressRange::parse('10.0.0.10-10.0.0.60')))->toBe('10.9.0.10-10.9.0.60')
        ->and($move->ofRange(AddressRange::parse('10.0.0.10-10.0.0.150')))->toBeNull();
});

it('makes modified EUI-64 as RFC 4291 appendix A does', function (): void {
    expect((string) InterfaceId::eui64(Prefix::parse('2001:db8::/64'), MacAddress::parse('34-56-78-9A-BC-DE')))->toBe(
        '2001:db8::3656:78ff:fe9a:bcde',
    )
        ->and(fn () => InterfaceId::eui64(Prefix::parse('2001:db8::/56'), MacAddress::parse('34-56-78-9A-BC-DE')))->toThrow(
            NotUnderstood::class,
        )
        ->and(fn () => InterfaceId::eui64(Prefix::parse('192.0.2.0/24'), MacAddress::parse('34-56-78-9A-BC-DE')))->toThrow(
            NotUnderstood::class,
        );
});

it('makes stable addresses that differ by network, interface, secret and counter (RFC 7217 §5)', function (): void {
    $link = Prefix::parse('2001:db8:1::/64');
    $of = fn (Prefix $p, string $i, string $s, int $c = 0): string => (string) InterfaceId::stable($p, $i, $s, $c);
    $all = [
        $of($link, 'a', 'secret'), $of(Prefix::parse('2001:db8:2::/64'), 'a', 'secret'), $of($link, 'b', 'secret'),
        $of($link, 'a', 'other'), $of($link, 'a', 'secret', 1),
    ];
    expect(array_unique(array_map(fn (string $a): string => substr(bin2hex(Address::parse($a)->bytes), 16), $all)))
        ->toHaveCount(5)->and($of($link, 'a', 'secret'))->toBe($all[0]);
    expect(InterfaceId::isReserved("\0\0\0\0\0\0\0\0"))->toBeTrue()
        ->and(InterfaceId::isReserved("\xfd\xff\xff\xff\xff\xff\xff\x80"))->toBeTrue()
        ->and(InterfaceId::isReserved("\xfd\xff\xff\xff\xff\xff\xff\x7f"))->toBeFalse()
        ->and(InterfaceId::isReserved("\x02\x00\x5e\xff\xfe\x00\x52\x13"))->toBeTrue();
});

it('says what the evidence amounts to', function (array $facts, string $code): void {
    $verdict = (new Evidence(...$facts))->verdict();
    expect($verdict['code'])->toBe($code)->and($verdict['words'])->not->toBe('');
})->with([
    [[], 'free'], [['leased' => 'm1'], 'leased'], [['seen' => '?'], 'unknown'], [['seen' => 'm1', 'leased' => 'm1'], 'leased'],
    [['reserved' => 'm1'], 'reserved-only'], [['dns' => ['a.b']], 'name-only'], [['ptr' => 'a.b'], 'name-only'],
    [['planned' => true], 'planned'], [['planned' => true, 'plannedMac' => 'm1', 'seen' => 'm1'], 'agrees'],
    [['planned' => true, 'plannedMac' => 'm1', 'seen' => '?'], 'agrees'],
    [['planned' => true, 'plannedMac' => 'm1', 'seen' => 'm2'], 'other-mac'],
    [['planned' => true, 'plannedMac' => 'm1', 'leased' => 'm2'], 'other-mac'],
    [['planned' => true, 'plannedMac' => 'm1', 'reserved' => 'm2'], 'other-mac'],
    [['planned' => true, 'reserved' => 'm1', 'leased' => 'm2'], 'other-mac'],
    [['planned' => true, 'plannedName' => 'a.b', 'dns' => ['c.b'], 'ptr' => 'c.b'], 'other-name'],
    [['planned' => true, 'plannedName' => 'a.b', 'dns' => ['a.b', 'c.b'], 'ptr' => 'a.b', 'seen' => '?'], 'agrees'],
    [['planned' => true, 'plannedName' => 'a.b', 'dns' => ['a.b']], 'no-ptr'],
    [['planned' => true, 'plannedName' => 'a.b', 'dns' => ['a.b'], 'ptr' => 'z.b'], 'other-name'],
    [['planned' => true, 'scanned' => true], 'never-seen'],
    [['planned' => true, 'scanned' => true, 'seenBefore' => true], 'silent'],
    [['planned' => true, 'dynamic' => true], 'in-dynamic'],
    [['planned' => true, 'dynamic' => true, 'reserved' => 'm1', 'plannedMac' => 'm1'], 'planned'],
]);
