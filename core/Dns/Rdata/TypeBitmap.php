<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\RecordType;

/** The record types that a name has, as windows of bits (RFC 4034 §4.1.2). */
final readonly class TypeBitmap
{
    /** @param  list<int>  $types  ascending, each once */
    private function __construct(public array $types)
    {
    }

    /** @param  array<int>  $types */
    public static function of(array $types): self
    {
        $types = array_values(array_unique($types));
        sort($types);

        return new self($types);
    }

    public static function fromText(Fields $fields): self
    {
        $types = [];
        while (! $fields->atEnd()) {
            $text = $fields->raw('a record type');
            $types[] = (RecordType::tryParse($text) ?? throw $fields->fault("\"$text\" is no record type", 'RFC 4034 §4.2'))->number;
        }

        return self::of($types);
    }

    /** @throws MalformedBytes on windows out of order, empty ones and ones that end in zero bytes */
    public static function fromWire(ByteReader $reader): self
    {
        $types = [];
        $before = -1;
        while (! $reader->atEnd()) {
            $at = $reader->position();
            [$window, $length] = [$reader->uint8(), $reader->uint8()];
            if ($window <= $before || $length < 1 || $length > 32) {
                throw MalformedBytes::at($at, 'windows in ascending order, each of 1 to 32 bytes');
            }
            $before = $window;
            foreach (str_split($reader->take($length)) as $i => $byte) {
                for ($bit = 0; $bit < 8; $bit++) {
                    if ((ord($byte) & 0x80 >> $bit) !== 0) {
                        $types[] = $window << 8 | $i << 3 | $bit;
                    }
                }
            }
        }

        return new self($types);
    }

    public function has(int $type): bool
    {
        return in_array($type, $this->types, true);
    }

    public function wire(): string
    {
        $windows = [];
        foreach ($this->types as $type) {
            $bytes = $windows[$type >> 8] ?? '';
            $index = $type >> 3 & 31;
            $bytes = str_pad($bytes, $index + 1, "\0");
            $bytes[$index] = chr(ord($bytes[$index]) | 0x80 >> ($type & 7));
            $windows[$type >> 8] = $bytes;
        }
        $wire = '';
        foreach ($windows as $window => $bytes) {
            $wire .= chr($window).chr(strlen($bytes)).$bytes;
        }

        return $wire;
    }

    public function text(): string
    {
        return implode(' ', array_map(static fn (int $t): string => (string) RecordType::of($t), $this->types));
    }
}
