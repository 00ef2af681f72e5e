<?php

declare(strict_types=1);

use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\Option\OwnShape;
use HarborPost\Core\Dhcp\Option\SubDefinition;
use HarborPost\Core\Dhcp\Option\VendorTemplate;
use HarborPost\Core\Net\Family;

/*
 * What one maker's devices read inside options 43, 125 and 17: typed by name, sent as bytes, read as the device reads it.
 */

function cabinPhones(?int $enterprise = null, Family $family = Family::V4): VendorTemplate
{
    $subs = SubDefinition::read("241 controllers: addresses\n1 boot file: text\n2 voice VLAN: uint16\n3 flags: bytes\n4 zones: names", 254);

    return new VendorTemplate('Cabin phones', $family, $enterprise === null ? 'CABIN-' : '', $enterprise, $subs);
}

it('reads what a maker describes, a line each', function (): void {
    $subs = SubDefinition::read(" 241  call managers : addresses \n\n1 mode: a number of one byte", 254);
    expect(array_keys($subs))->toBe([1, 241])->and($subs[241]->name)->toBe('call managers')->and($subs[1]->shape)->toBe(OwnShape::Byte)
        ->and($subs[241]->text())->toBe('241 call managers: addresses');
});

it('says which line it does not understand', function (string $text, string $says): void {
    expect(fn () => SubDefinition::read($text, 254))->toThrow(BadOption::class, $says);
})->with([
    ['', 'at least one line'], ["1 a: text\n\nnothing", 'line 3'], ['0 a: text', 'from 1 to 254'], ['255 a: text', 'from 1 to 254'],
    ['1 a: colour', 'line 1 holds one of'], ["1 a: text\n1 b: text", 'line 2 has a code or a name'], ["1 a: text\n2 A: text", 'line 2'],
    ['1 : text', 'line 1'], ['1=a: text', 'line 1'],
]);

it('turns what is typed by name into sub-options, and reads them back', function (): void {
    $template = cabinPhones();
    $values = $template->values(['2' => '40', '1' => 'boot file.bin', '241' => "192.0.2.10\n192.0.2.11", '3' => '', '4' => 'quay.example']);
    expect($values)->toBe([
        '1=text:boot file.bin', '2=uint16:40', '4=hex:0471756179076578616d706c6500', '241=address:192.0.2.10,192.0.2.11',
    ]);
    $bytes = OptionTable::encode(43, $values);
    expect($template->code())->toBe(43)
        ->and($template->words($bytes))
        ->toBe('boot file: boot file.bin; voice VLAN: 40; zones: quay.example; controllers: 192.0.2.10, 192.0.2.11')
        ->and($template->typed($bytes))->toBe([1 => 'boot file.bin', 2 => '40', 4 => 'quay.example', 241 => '192.0.2.10, 192.0.2.11'])
        ->and(OptionTable::encode(43, $template->values($template->typed($bytes))))->toBe($bytes);
});

it('is carried by enterprise number in options 125 and 17', function (): void {
    $v4 = cabinPhones(3561);
    $values = $v4->values(['1' => 'two words', '2' => '7']);
    expect($v4->code())->toBe(125)->and($values)->toBe(['3561: 1=hex:74776f20776f726473 2=uint16:7']);
    // Behind the sub-options of another maker, which its devices pass over.
    $bytes = OptionTable::encode(125, ['9: 1=uint8:1', ...$values]);
    expect($v4->words($bytes))->toBe('boot file: two words; voice VLAN: 7');
    $v6 = new VendorTemplate('Lamps', Family::V6, '', 3561, SubDefinition::read('1 server: address', 65535));
    $bytes = OptionTable::encode(17, $v6->values(['1' => '2001:db8::5']), Family::V6);
    expect($v6->code())->toBe(17)->and(Hex::spaced(substr($bytes, 0, 8)))->toBe('00 00 0d e9 00 01 00 10')
        ->and($v6->words($bytes))->toBe('server: 2001:db8::5');
});

it('refuses values of another shape and codes that are none of its own', function (array $typed, string $says): void {
    expect(fn () => cabinPhones()->values($typed))->toThrow(BadOption::class, $says);
})->with([
    [['2' => '70000'], 'voice VLAN (2) holds a number of two bytes'], [['241' => 'quay'], 'controllers (241) holds addresses'],
    [['9' => 'x'], 'a code of Cabin phones: 1, 2, 3, 4, 241'], [['3' => 'xyz'], 'flags (3) holds bytes'],
]);

it('says what a device would not understand, and where a length byte lies', function (): void {
    $template = cabinPhones();
    expect($template->read(Hex::parse('02 01 07 09 02 ab cd 00 01 02 68 69 ff 99')))->toBe([
        ['code' => 2, 'name' => 'voice VLAN', 'words' => '07', 'fault' => $template->read(Hex::parse('02 01 07'))[0]['fault']],
        ['code' => 9, 'name' => 'sub-option 9', 'words' => 'ab cd', 'fault' => 'no sub-option of Cabin phones'],
        ['code' => 1, 'name' => 'boot file', 'words' => 'hi', 'fault' => null],
    ])->and($template->read(Hex::parse('02 01 07'))[0]['fault'])->not->toBeNull();
    expect(fn () => $template->read(Hex::parse('02 09 07')))->toThrow(BadOption::class, 'length byte lies')
        ->and(fn () => cabinPhones(3561)->read(Hex::parse('00 00 0d e9 09 01')))->toThrow(BadOption::class, 'whole enterprise')
        ->and($template->words(Hex::parse('02 09 07')))->toStartWith('02 09 07 (');
});

it('knows its clients by the start of what they say', function (): void {
    expect(cabinPhones()->isFor('CABIN-7'))->toBeTrue()->and(cabinPhones()->isFor('cabin-7'))->toBeFalse()
        ->and(cabinPhones(3561)->isFor('anything'))->toBeFalse();
});
