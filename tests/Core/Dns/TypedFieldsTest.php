<?php

declare(strict_types=1);

use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\NameOrder;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\FormField;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\Rdata\TypedFields;
use HarborPost\Core\Dns\RecordType;

it('gives back the same data', function (string $type, string $text, array $values): void {
    $origin = Name::parse('quay.example.');
    $data = RdataTypes::fromText(RecordType::parse($type), Fields::ofLine($text, $origin));
    expect(TypedFields::values($data, $origin))->toBe($values);
    $again = RdataTypes::fromText(
        RecordType::parse($type),
        Fields::ofLine(TypedFields::compose(RecordType::parse($type), $values), $origin),
    );
    expect($again->wire())->toBe($data->wire());
})->with([
    ['A', '192.0.2.1', ['192.0.2.1']],
    ['AAAA', '2001:DB8::1', ['2001:db8::1']],
    ['CNAME', 'www', ['www']],
    ['CNAME', 'www.other.example.', ['www.other.example.']],
    ['NS', '@', ['@']],
    ['PTR', 'a\\.b.quay.example.', ['a\\.b']],
    ['MX', '10 mail', ['10', 'mail']],
    ['MX', '0 .', ['0', '.']],
    ['SRV', '10 60 5060 voice.quay.example.', ['10', '60', '5060', 'voice']],
    ['TXT', '"v=spf1 mx -all"', ['v=spf1 mx -all']],
    ['TXT', '"two" "strings here"', ['two', 'strings here']],
    ['TXT', '"a \\"quoted\\" word"', ['a "quoted" word']],
    ['TXT', '"back\\\\slash \\195\\164"', ['back\\\\slash \\195\\164']],
    ['TXT', '""', ['']],
    ['CAA', '128 issue "ca.example.net; policy=ev"', ['128', 'issue', 'ca.example.net; policy=ev']],
    ['TYPE65280', '\\# 3 0a0b0c', ['\\# 3 0a0b0c']],
]);

it('cuts a long text into strings of 255 bytes', function (): void {
    $text = TypedFields::compose(RecordType::parse('TXT'), [str_repeat('k', 600)]);
    expect(array_map(strlen(...), RdataTypes::fromText(RecordType::parse('TXT'), Fields::ofLine($text))->strings))->toBe([255, 255, 90]);
});

it('names the field that is wrong', function (string $type, array $values, int $field, string $says): void {
    try {
        RdataTypes::fromText(
            RecordType::parse($type),
            Fields::ofLine(TypedFields::compose(RecordType::parse($type), $values), Name::parse('quay.example.')),
        );
    } catch (Malformed $e) {
        expect($e->field)->toBe($field)->and($e->getMessage())->toContain($says);

        return;
    }
    test()->fail('nothing was refused');
})->with([
    ['MX', ['70000', 'mail'], 0, 'from 0 to 65535'],
    ['MX', ['ten', 'mail'], 0, 'not "ten"'],
    ['MX', ['10', ''], 1, 'Mail exchanger is missing'],
    ['MX', ['10', 'two words'], 1, 'without blanks'],
    ['MX', ['10'], 1, 'is missing'],
    ['SRV', ['1', '2', '65536', 'x'], 2, 'Port is a number'],
    ['CAA', ['300', 'issue', 'x'], 0, 'from 0 to 255'],
    ['CAA', ['0', 'is-sue', 'x'], 1, 'letters and digits'],
    ['A', ['192.0.2.300'], 0, '255'],
    ['A', ['2001:db8::1'], 0, 'IPv4'],
    ['A', ['192.0.2.1', '192.0.2.2'], 1, '1 fields'],
    ['TXT', ['ends with \\'], 0, 'backslash'],
]);

it('knows the fields of each type that is built', function (string $type, array $labels): void {
    expect(array_map(fn (FormField $f): string => $f->label, TypedFields::of(RecordType::parse($type))))->toBe($labels);
})->with([
    ['A', ['IPv4 address']],
    ['MX', ['Preference', 'Mail exchanger']],
    ['SRV', ['Priority', 'Weight', 'Port', 'Host']],
    ['CAA', ['Flags', 'Tag', 'Value']],
    ['APL', ['Data in the generic form']],
    ['NAPTR', ['Order', 'Preference', 'Flags', 'Services', 'Expression', 'Replacement, or a dot']],
    ['HTTPS', ['Priority', 'Target, or a dot for the owner', 'Parameters']],
]);

it('orders and writes many names as each name does by itself', function (): void {
    mt_srand(11);
    $order = new NameOrder;
    for ($i = 0; $i < 3000; $i++) {
        $labels = [];
        for ($n = mt_rand(0, 5); $n > 0; $n--) {
            $labels[] = mt_rand(0, 9) > 7
                ? implode('', array_map(fn (): string => chr(mt_rand(0, 255)), range(1, mt_rand(1, 6))))
                : substr('AbcdEfgh-_09', mt_rand(0, 10), mt_rand(1, 2));
        }
        $name = Name::ofLabels($labels);
        expect($order->sortKey($name->key()))->toBe($name->sortKey())->and($order->text($name->key()))
            ->toBe(strtolower((string) $name->lower()));
    }
});
