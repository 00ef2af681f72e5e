<?php

declare(strict_types=1);

use HarborPost\Core\Planning\LayeredData;
use HarborPost\Core\Planning\LineDifference;

it('merges maps key by key, and replaces everything else', function (): void {
    $merged = LayeredData::of([
        ['Organisation', ['ntp' => ['10.0.0.1', '10.0.0.2'], 'snmp' => ['where' => 'lodge', 'level' => 2], 'motd' => 'hello']],
        ['North', ['snmp' => ['where' => 'pier'], 'motd' => ['line' => 'hi']]],
        ['Quay', ['ntp' => ['10.1.0.1'], 'motd' => 'ahoy', 'off' => []]],
    ]);
    expect($merged->data)->toBe([
        'ntp' => ['10.1.0.1'], 'snmp' => ['where' => 'pier', 'level' => 2], 'motd' => 'ahoy', 'off' => [],
    ])->and($merged->origins)->toEqualCanonicalizing([
        'ntp' => 'Quay', 'snmp.where' => 'North', 'snmp.level' => 'Organisation', 'motd' => 'Quay', 'off' => 'Quay',
    ]);
});

it('has an origin for each value and none for what is hidden, over random layers', function (): void {
    mt_srand(7);
    $make = function (int $depth) use (&$make): array {
        $set = [];
        foreach (range(1, mt_rand(1, 4)) as $ignored) {
            $deeper = $depth > 0 && mt_rand(0, 1) === 1;
            $set['abcdef'[mt_rand(0, 5)]] = $deeper ? $make($depth - 1) : (mt_rand(0, 1) === 1 ? mt_rand(0, 9) : [1, 2]);
        }

        return $set;
    };
    $leaves = function (array $data, string $above = '') use (&$leaves): array {
        $found = [];
        foreach ($data as $key => $value) {
            $path = ltrim("$above.$key", '.');
            $found = [...$found, ...is_array($value) && $value !== [] && ! array_is_list($value) ? $leaves($value, $path) : [$path]];
        }

        return $found;
    };
    for ($i = 0; $i < 300; $i++) {
        $layers = [['a', $make(3)], ['b', $make(3)], ['c', $make(3)]];
        $merged = LayeredData::of($layers);
        expect(array_keys($merged->origins))->toEqualCanonicalizing($leaves($merged->data));
        foreach ($merged->origins as $path => $origin) {
            $set = array_column($layers, 1, 0)[$origin];
            foreach (explode('.', (string) $path) as $key) {
                $set = $set[$key];
            }
            $there = $merged->data;
            foreach (explode('.', (string) $path) as $key) {
                $there = $there[$key];
            }
            expect($set)->toBe($there);
        }
    }
});

it('tells the fewest lines that change a text into another', function (): void {
    expect(LineDifference::of("a\nb\nc\n", "a\nx\nc\n"))->toBe([[' ', 'a'], ['-', 'b'], ['+', 'x'], [' ', 'c']])
        ->and(LineDifference::of('', "a\n"))->toBe([['+', 'a']])->and(LineDifference::of('a', ''))->toBe([['-', 'a']])
        ->and(LineDifference::of("a\nb", "a\nb"))->toBe([[' ', 'a'], [' ', 'b']]);
    $long = implode("\n", range(1, 40));
    expect(LineDifference::around($long, str_replace("\n20\n", "\nxx\n", $long), 1))->toBe(
        [null, [' ', '19'], ['-', '20'], ['+', 'xx'], [' ', '21'], null],
    );
});

it('goes from one text to the other and back, over random texts', function (): void {
    mt_srand(11);
    for ($i = 0; $i < 400; $i++) {
        $text = fn (): string => implode("\n", array_map(fn (): string => 'abcd'[mt_rand(0, 3)], range(1, mt_rand(1, 12))));
        [$before, $after] = [$text(), $text()];
        $lines = LineDifference::of($before, $after);
        $side = fn (string $but): string => implode("\n", array_column(array_filter($lines, fn (array $l): bool => $l[0] !== $but), 1));
        expect($side('+'))->toBe($before)->and($side('-'))->toBe($after);
    }
});
