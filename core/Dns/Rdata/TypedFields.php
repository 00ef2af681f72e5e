<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;

/**
 * The data of each record type as named fields, so that nobody has to know their order: what a form shows, and back to the
 * presentation form. compose(type, values(data)) reads as the same data.
 */
final class TypedFields
{
    /** @return non-empty-list<FormField> a type that is not built has one field, in the generic form of RFC 3597 §5 */
    public static function of(RecordType $type): array
    {
        return match ($type->number) {
            RecordType::A => [new FormField('IPv4 address', '192.0.2.1', 'ipv4')],
            RecordType::AAAA => [new FormField('IPv6 address', '2001:db8::1', 'ipv6')],
            RecordType::CNAME => [new FormField('Is an alias of', 'host, or a name with a final dot', 'name')],
            RecordType::NS => [new FormField('Name server', 'ns1', 'name')],
            RecordType::PTR => [new FormField('Points to', 'host.example.', 'name')],
            RecordType::MX => [new FormField('Preference', '10', 'number'), new FormField('Mail exchanger', 'mail', 'name')],
            RecordType::SRV => [
                new FormField('Priority', '10', 'number'), new FormField('Weight', '60', 'number'),
                new FormField('Port', '5060', 'number'), new FormField('Host', 'voice', 'name'),
            ],
            RecordType::TXT => [new FormField('Text', 'v=spf1 mx -all', 'text', repeats: true)],
            RecordType::CAA => [
                new FormField('Flags', '0', 'number', 8),
                new FormField('Tag', 'issue', 'word'),
                new FormField('Value', 'ca.example.net', 'text'),
            ],
            RecordType::SVCB,
            RecordType::HTTPS => [
                new FormField('Priority', '1', 'number'),
                new FormField('Target, or a dot for the owner', '.', 'name'),
                new FormField('Parameters', 'alpn="h2,h3" port=8443 ipv4hint=192.0.2.1', 'rest'),
            ],
            RecordType::LOC => [new FormField('Position, altitude, sizes', '59 20 10.000 N 18 3 45.000 E 12m', 'raw')],
            default => self::ofParts($type),
        };
    }

    /** @return non-empty-list<FormField> */
    private static function ofParts(RecordType $type): array
    {
        $fields = array_map(static fn (Part $p): FormField => $p->field(), RdataTypes::parts($type) ?? []);

        return $fields === [] ? [new FormField('Data in the generic form', '\\# 4 c0000201', 'raw')] : $fields;
    }

    /**
     * @param  ?Name  $origin  names below it are written relative to it
     * @return non-empty-list<string> a value a field; the last field's once more for each time it repeats
     */
    public static function values(Rdata $data, ?Name $origin = null): array
    {
        $fields = self::of($data->type());
        if ($fields[0]->kind === 'raw') {
            return [$data->text()];
        }
        $values = [];
        if ($fields[count($fields) - 1]->kind === 'rest') {
            [$priority, $target, $rest] = [...explode(' ', $data->text(), 3), ''];

            return [
                (string) $priority,
                $origin === null ? (string) $target : Name::parse((string) $target)->relativeTo($origin),
                (string) $rest,
            ];
        }
        $read = Fields::ofLine($data->text());
        for ($i = 0; ! $read->atEnd(); $i++) {
            $field = $fields[min($i, count($fields) - 1)];
            $text = $read->raw($field->label);
            $values[] = match ($field->kind) {
                'text' => str_replace('\\"', '"', $text),
                'name' => $origin === null ? $text : Name::parse($text)->relativeTo($origin),
                default => $text,
            };
        }

        return $values === [] ? [''] : $values;
    }

    /**
     * Presentation form of what was filled in.
     *
     * @param  list<string>  $values
     *
     * @throws Malformed that names the field by its index
     */
    public static function compose(RecordType $type, array $values): string
    {
        $fields = self::of($type);
        $parts = [];
        foreach ($values as $i => $value) {
            $field = $fields[$i] ?? ($fields[count($fields) - 1]->repeats ? $fields[count($fields) - 1] : null);
            if ($field === null) {
                throw Malformed::because("$type has ".count($fields).' fields, here are '.count($values), 'RFC 1035 §5.1')->inField($i);
            }
            if ($i > 0 && $i >= count($fields) && trim($value) === '') {
                continue;
            }
            $parts[] = self::part($field, $value, $i);
        }
        if (count($values) < count($fields)) {
            throw Malformed::because("{$fields[count($values)]->label} is missing", 'RFC 1035 §5.1')->inField(count($values));
        }

        return rtrim(implode(' ', $parts));
    }

    private static function part(FormField $field, string $value, int $index): string
    {
        $text = trim($value);
        if ($field->kind === 'text') {
            return self::quoted($value, $index);
        }
        if ($field->kind === 'rest') {
            return $text;
        }
        if ($text === '') {
            throw Malformed::because("$field->label is missing", 'RFC 1035 §5.1')->inField($index);
        }
        if ($field->kind === 'number' && (preg_match('/\A\d{1,10}\z/', $text) !== 1 || (int) $text >= 1 << $field->bits)) {
            throw Malformed::because(
                sprintf('%s is a number from 0 to %d, not "%s"', $field->label, (1 << $field->bits) - 1, $text),
                'RFC 1035 §5.1',
            )->inField($index);
        }
        if ($field->kind !== 'raw' && preg_match('/[\s"]/', $text, $found, PREG_OFFSET_CAPTURE) === 1) {
            throw Malformed::because(
                "$field->label holds one value, without blanks and quotes",
                'RFC 1035 §5.1',
                (int) $found[0][1],
            )->inField($index);
        }

        return $text;
    }

    /** In strings of at most 255 bytes each (RFC 1035 §3.3), escapes kept. */
    private static function quoted(string $text, int $index): string
    {
        try {
            $bytes = Name::unescape($text);
        } catch (Malformed $e) {
            throw $e->inField($index);
        }

        return implode(' ', array_map(Fields::quote(...), $bytes === '' ? [''] : str_split($bytes, 255)));
    }
}
