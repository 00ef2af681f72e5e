<?php

declare(strict_types=1);

use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionBook;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\Option\OwnShape;
use HarborPost\Core\Net\Family;

function quayBook(OwnShape $shape = OwnShape::Addresses, Family $family = Family::V4): OptionBook
{
    return OptionBook::of([[$family, $family === Family::V4 ? 224 : 65001, 'ticket servers', $shape]]);
}

it('keeps what is typed as bytes, and reads it by its shape', function (OwnShape $shape, string $typed, string $bytes,
    string $words): void {
    $book = quayBook($shape);
    $values = $book->typed(224, $typed);
    expect($values)->toBe(["0x$bytes"])->and(bin2hex(OptionTable::encode(224, $values)))->toBe($bytes)
        ->and($book->words(224, $values))->toBe($words)->and($book->meaning(224, (string) hex2bin($bytes)))->toBe($words)
        // What is read is typed again to the same bytes.
        ->and($book->typed(224, $words))->toBe($values);
})->with([
    [OwnShape::Address, '192.0.2.1', 'c0000201', '192.0.2.1'],
    [OwnShape::Addresses, '192.0.2.1 192.0.2.2', 'c0000201c0000202', '192.0.2.1, 192.0.2.2'],
    [OwnShape::Text, 'quay 1, till', bin2hex('quay 1, till'), 'quay 1, till'],
    [OwnShape::Byte, '7', '07', '7'],
    [OwnShape::Short, '700', '02bc', '700'],
    [OwnShape::Long, '4294967295', 'ffffffff', '4294967295'],
    [OwnShape::Shorts, '1, 65535', '0001ffff', '1, 65535'],
    [OwnShape::Names, 'quay.example.', '0471756179076578616d706c6500', 'quay.example'],
    [OwnShape::SubOptions, '1=text:abc', '0103616263', '1=text:abc'],
    [OwnShape::Bytes, '0x0102ff', '0102ff', '01 02 ff'],
]);

it('says which option is wrong, and where', function (): void {
    expect(fn () => quayBook()->typed(224, '192.0.2.256'))->toThrow(BadOption::class, '224')
        ->and(quayBook()->meaning(224, "\xc0\x00"))->toContain('c0 00 (');
});

it('takes bytes as they are, whatever the shape', function (): void {
    expect(quayBook()->typed(224, '0xc000'))->toBe(['0xc000'])->and(quayBook()->typed(224, ' '))->toBe([]);
});

it('leaves registered options and other families alone', function (): void {
    $book = quayBook(family: Family::V6);
    expect($book->own(65001, Family::V4))->toBeNull()->and($book->typed(224, 'c0 00'))->toBe(['c0 00'])
        ->and($book->definition(3)->name)->toBe(OptionTable::definition(3)->name)
        ->and($book->definition(65001, Family::V6)->name)->toBe('ticket servers')
        ->and($book->typed(65001, '2001:db8::1', Family::V6))->toBe(['0x20010db8000000000000000000000001'])
        ->and($book->words(3, ['192.0.2.1', '192.0.2.2']))->toBe('192.0.2.1, 192.0.2.2');
    $codes = array_column($book->all(Family::V6), 'code');
    expect($codes)->toContain(65001)->and($codes)->toBe(array_values(array_unique($codes)))
        ->and(array_column(quayBook()->all(), 'code'))->toContain(224, 3);
});
