<?php

declare(strict_types=1);

use HarborPost\Core\Planning\PortList;

it('reads ports as people write them', function (string $text, array $ports): void {
    expect(PortList::parse($text))->toBe($ports);
})->with([
    ['1-3, 7', ['1', '2', '3', '7']],
    ['gi1/0/7-8; uplink', ['gi1/0/7', 'gi1/0/8', 'uplink']],
    ['2 1 2', ['2', '1']],
    ['A1-B2', ['A1-B2']],
]);

it('refuses what is no port', function (string $text): void {
    PortList::parse($text);
})->with(['', '  ,', '9-2', '1-9000', '-1', 'a b<c', str_repeat('x', 41)])->throws(InvalidArgumentException::class);

it('writes as few as it can, and reads back the same, for any ports', function (): void {
    mt_srand((int) (getenv('HPOST_SEED') ?: 5));
    expect(PortList::shorten(['1', '2', '3', '5', 'gi1/0/2', 'gi1/0/1', '007', '008']))->toBe('1-3, 5, 007, 008, gi1/0/1-2');
    for ($case = 0; $case < 300; $case++) {
        $names = [];
        for ($i = mt_rand(1, 20); $i > 0; $i--) {
            $names[['', 'gi1/0/', 'sw-', 'a'][mt_rand(0, 3)].mt_rand(0, 30)] = true;
        }
        $names = array_map(strval(...), array_keys($names));
        $again = PortList::parse(PortList::shorten($names));
        sort($names);
        sort($again);
        expect($again)->toBe($names);
    }
});
