<?php

declare(strict_types=1);

use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionLayer;
use HarborPost\Core\Dhcp\Option\OptionReader;
use HarborPost\Core\Dhcp\Option\OptionStack;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\Option\StackedValue;

function stacked(int $code, array $values, OptionLayer $layer, string $name = 'x'): StackedValue
{
    return new StackedValue($code, $values, $layer, $name, $name);
}

it('lets the layer nearest to the client win, and keeps what it hides', function (): void {
    $stack = OptionStack::of([
        stacked(42, ['192.0.2.1'], OptionLayer::Organisation, 'Organisation'),
        stacked(42, ['192.0.2.2'], OptionLayer::Server, 'tide1'),
        stacked(42, ['192.0.2.3'], OptionLayer::Scope, 'Deck'),
        stacked(15, ['quay.example'], OptionLayer::Site, 'Tarbeck'),
    ]);
    expect(array_keys($stack->nearest()))->toBe([15, 42])
        ->and($stack->nearest()[42]->name)->toBe('Deck')
        ->and(array_map(fn (StackedValue $v): string => $v->name, $stack->hidden(42)))->toBe(['tide1', 'Organisation'])
        ->and($stack->hidden(15))->toBe([])
        ->and($stack->hidden(3))->toBe([])
        ->and(bin2hex($stack->payloads()[42]))->toBe('c0000203');
});

it('sends nothing of what is empty on purpose, and remembers it', function (): void {
    $stack = OptionStack::of([
        stacked(42, ['192.0.2.1'], OptionLayer::Organisation),
        stacked(42, [], OptionLayer::Scope),
        stacked(68, [], OptionLayer::Scope),
    ]);
    // Mobile IP has an empty form of its own (RFC 2132 §8.13), time servers have none.
    expect($stack->payloads())->toBe([68 => ''])
        ->and($stack->withheld())->toBe([42])
        ->and($stack->nearest()[42]->words())->toBe('empty on purpose')
        ->and($stack->hidden(42))->toHaveCount(1);
});

it('answers what is asked for in its order, and everything when nothing is', function (): void {
    $stack = OptionStack::of([
        stacked(3, ['192.0.2.1'], OptionLayer::Scope), stacked(6, ['192.0.2.53'], OptionLayer::Scope), stacked(42, [], OptionLayer::Scope),
    ]);
    expect(array_column($stack->answer([6, 3, 66, 6]), 'code'))->toBe([6, 3, 66])
        ->and($stack->answer([66])[0]['value'])->toBeNull()
        ->and(array_column($stack->answer(null), 'code'))->toBe([3, 6]);
});

it('reads options as a client does', function (string $hex, array $lines): void {
    $read = array_map(
        fn (array $l): array => [$l['offset'], $l['code'], $l['meaning'], $l['fault']],
        OptionReader::read((string) hex2bin(str_replace(' ', '', $hex))),
    );
    expect($read)->toBe($lines);
})->with([
    'two and an end' => ['0104ffffff00 0304c0000201 ff', [[0, 1, '255.255.255.0', null], [6, 3, '192.0.2.1', null]]],
    'pads between' => ['00 0104ffffff00 0000 ff 0000', [[1, 1, '255.255.255.0', null]]],
    'one in two pieces' => ['0c02 7469 0c02 6c6c ff', [[0, 12, 'till', null]]],
    'a piece elsewhere' => ['0c02 7469 0304c0000201 0c02 6c6c ff', [[0, 12, 'till', null], [4, 3, '192.0.2.1', null]]],
    'no end' => ['0104ffffff00', [[0, 1, '255.255.255.0', null], [6, 255, '', 'the end option is missing']]],
    'a length that lies' => ['0304c00002', [[0, 3, '', 'says 4 bytes, 3 are there']]],
    'no length' => ['03', [[0, 3, '', 'the length byte is missing'], [0, 255, '', 'the end option is missing']]],
    'bytes behind the end' => ['ff 0304c0000201', [[0, 255, '', 'after the end option nothing is read']]],
    'nothing' => ['', [[0, 255, '', 'the end option is missing']]],
]);

it('goes on behind an option of the wrong shape, and says where', function (): void {
    $read = OptionReader::read((string) hex2bin('0303c000020f0161ff'));
    expect($read[0]['fault'])->toContain('byte')->and($read[0]['meaning'])->toBe('')->and($read[1]['meaning'])->toBe('a');
});

it('reads the payload of one option', function (): void {
    expect(OptionReader::one(121, (string) hex2bin('0c0a200a240001'))['meaning'])->toBe('10.32.0.0/12 10.36.0.1')
        ->and(OptionReader::one(3, 'abc')['fault'])->not->toBeNull()
        ->and(fn () => OptionReader::one(255, ''))->toThrow(BadOption::class);
});

it('never stumbles over bytes, whatever they are', function (): void {
    mt_srand(3);
    for ($i = 0; $i < 2000; $i++) {
        $bytes = '';
        for ($n = mt_rand(0, 60); $n > 0; $n--) {
            $bytes .= chr(mt_rand(0, 255));
        }
        foreach (OptionReader::read($bytes) as $line) {
            expect($line['offset'])->toBeLessThanOrEqual(strlen($bytes));
            expect($line['fault'] === null || $line['fault'] !== '')->toBeTrue();
        }
    }
});

it('has a name, a shape and a standard for every registered option', function (): void {
    foreach (OptionTable::all() as $definition) {
        expect($definition->name)->not->toBe('')->and($definition->standard)->toStartWith('RFC ');
    }
    foreach ([62, 63, 78, 80, 85, 88, 98, 120, 136, 141, 148, 161, 162, 208, 213, 221] as $code) {
        expect(OptionTable::isRegistered($code))->toBeTrue("option $code");
    }
});

it('says of an option without payload that it is there', function (): void {
    expect(OptionTable::encode(80, ['present']))->toBe('')
        ->and(OptionTable::decode(80, ''))->toBe(['present'])
        ->and(fn () => OptionTable::encode(80, ['yes']))->toThrow(BadOption::class)
        ->and(fn () => OptionTable::decode(80, 'x'))->toThrow(BadOption::class);
});
