<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;

/**
 * One part of a record's data, in text and on the wire: a number, a name, a string, or bytes to the end. The value is an int, a Name or
 * raw bytes.
 */
final readonly class Part
{
    /**
     * @param  'uint8'|'uint16'|'uint32'|'name'|'string'|'hex'|'base64'|'dashed'|'quoted'  $kind
     * @param  array<int, string>  $mnemonics  number → the name that may be written for it
     */
    private function __construct(
        public string $label,
        public string $example,
        private string $kind,
        private bool $lower = true,
        private array $mnemonics = [],
        private int $least = 0,
        private int $most = 0xFFFF,
    ) {
    }

    /** @param  array<int, string>  $mnemonics */
    public static function uint8(string $label, string $example, array $mnemonics = []): self
    {
        return new self($label, $example, 'uint8', mnemonics: $mnemonics);
    }

    /** @param  array<int, string>  $mnemonics */
    public static function uint16(string $label, string $example, array $mnemonics = []): self
    {
        return new self($label, $example, 'uint16', mnemonics: $mnemonics);
    }

    /** @param  bool  $lower  canonical form has it in lower case (RFC 4034 §6.2 with RFC 6840 §5.1); never compressed */
    public static function name(string $label, string $example, bool $lower = true): self
    {
        return new self($label, $example, 'name', $lower);
    }

    /** One string of at most 255 bytes. */
    public static function string(string $label, string $example): self
    {
        return new self($label, $example, 'string');
    }

    /** Bytes to the end of the data, as hexadecimal digits. */
    public static function hex(string $label, string $example, int $least = 0, int $most = 0xFFFF): self
    {
        return new self($label, $example, 'hex', least: $least, most: $most);
    }

    /** Bytes to the end of the data, in base 64 (RFC 4648 §4). */
    public static function base64(string $label, string $example): self
    {
        return new self($label, $example, 'base64', least: 1);
    }

    /** So many bytes as pairs of digits with hyphens (RFC 7043). */
    public static function dashed(string $label, string $example, int $bytes): self
    {
        return new self($label, $example, 'dashed', least: $bytes, most: $bytes);
    }

    /** Bytes to the end of the data, written as one quoted text without a length. */
    public static function quoted(string $label, string $example): self
    {
        return new self($label, $example, 'quoted', least: 1);
    }

    /** @throws Malformed */
    public function read(Fields $fields): int|string|Name
    {
        return match ($this->kind) {
            'uint8', 'uint16', 'uint32' => $this->number($fields),
            'name' => $fields->name("the $this->label"),
            'string' => $fields->string("the $this->label"),
            'quoted' => $this->sized($fields, Name::unescape($fields->raw("the $this->label"))),
            'hex' => $this->sized($fields, $this->digits($fields)),
            'base64' => $this->sized($fields, $this->encoded($fields)),
            'dashed' => $this->sized($fields, $this->pairs($fields)),
        };
    }

    /** @throws MalformedBytes */
    public function take(ByteReader $reader): int|string|Name
    {
        $at = $reader->position();
        $value = match ($this->kind) {
            'uint8' => $reader->uint8(),
            'uint16' => $reader->uint16(),
            'uint32' => $reader->uint32(),
            'name' => Name::fromWire($reader),
            'string' => $reader->take($reader->uint8()),
            default => $reader->rest(),
        };
        if (is_string($value) && $this->kind !== 'string' && (strlen($value) < $this->least || strlen($value) > $this->most)) {
            throw MalformedBytes::at(
                $at,
                $this->least === $this->most ? "$this->least bytes of $this->label" : "at least $this->least bytes of $this->label",
            );
        }

        return $value;
    }

    public function wire(int|string|Name $value, bool $canonical = false): string
    {
        return match (true) {
            $value instanceof Name => $canonical && $this->lower ? $value->key() : $value->wire,
            is_int($value) => match ($this->kind) {
                'uint8' => chr($value),
                'uint16' => pack('n', $value),
                default => pack('N', $value),
            },
            $this->kind === 'string' => chr(strlen($value)).$value,
            default => $value,
        };
    }

    public function text(int|string|Name $value): string
    {
        return match (true) {
            $value instanceof Name => (string) $value->lower(),
            is_int($value) => (string) $value,
            $this->kind === 'string', $this->kind === 'quoted' => Fields::quote($value),
            $this->kind === 'base64' => base64_encode($value),
            $this->kind === 'dashed' => implode('-', str_split(bin2hex($value), 2)),
            default => bin2hex($value),
        };
    }

    /** As a field of a form. */
    public function field(): FormField
    {
        return new FormField(ucfirst($this->label), $this->example, match ($this->kind) {
            'uint8', 'uint16', 'uint32' => $this->mnemonics === [] ? 'number' : 'word',
            'name' => 'name',
            'string', 'quoted' => 'text',
            default => 'word',
        }, $this->kind === 'uint8' ? 8 : 16);
    }

    private function number(Fields $fields): int
    {
        $known = array_search(strtoupper((string) $fields->peek()), $this->mnemonics, true);
        if ($known !== false) {
            $fields->raw("the $this->label");

            return $known;
        }

        return $fields->number("the $this->label", ['uint8' => 8, 'uint16' => 16][$this->kind] ?? 32);
    }

    private function digits(Fields $fields): string
    {
        $hex = '';
        while (! $fields->atEnd()) {
            $hex .= $fields->raw("the $this->label");
        }
        if (strlen($hex) % 2 !== 0 || preg_match('/\A[0-9a-fA-F]*\z/', $hex) !== 1) {
            throw $fields->fault("the $this->label is an even number of hexadecimal digits");
        }

        return (string) hex2bin($hex);
    }

    private function encoded(Fields $fields): string
    {
        $text = '';
        while (! $fields->atEnd()) {
            $text .= $fields->raw("the $this->label");
        }
        $bytes = base64_decode($text, true);
        if ($bytes === false || strlen($text) % 4 !== 0) {
            throw $fields->fault("the $this->label is base 64 text", 'RFC 4648 §4');
        }

        return $bytes;
    }

    private function pairs(Fields $fields): string
    {
        $text = $fields->raw("the $this->label");
        if (preg_match('/\A[0-9a-f]{2}(-[0-9a-f]{2})*\z/i', $text) !== 1) {
            throw $fields->fault("the $this->label is written as $this->example", 'RFC 7043 §3.2');
        }

        return Hex::parse($text);
    }

    private function sized(Fields $fields, string $bytes): string
    {
        if (strlen($bytes) < $this->least || strlen($bytes) > $this->most) {
            throw $fields->fault(
                $this->least === $this->most
                    ? "the $this->label has $this->least bytes, here are ".strlen($bytes)
                    : "the $this->label has at least $this->least bytes, here are ".strlen($bytes),
            );
        }

        return $bytes;
    }
}
