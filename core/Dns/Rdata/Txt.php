<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Dns\RecordType;

/** One or more strings of at most 255 bytes each (RFC 1035 §3.3.14). */
final readonly class Txt implements BuiltRdata
{
    /** @param  non-empty-list<string>  $strings  raw bytes */
    private function __construct(public array $strings)
    {
    }

    /** Cuts a text into strings of 255 bytes. */
    public static function ofText(string $text): self
    {
        return new self($text === '' ? [''] : str_split($text, 255));
    }

    public static function fromText(Fields $fields): self
    {
        $strings = [$fields->string('the text')];
        while (! $fields->atEnd()) {
            $strings[] = $fields->string('the text');
        }

        return self::checked($strings);
    }

    public static function fromWire(ByteReader $reader): self
    {
        $strings = [$reader->take($reader->uint8())];
        while (! $reader->atEnd()) {
            $strings[] = $reader->take($reader->uint8());
        }

        return new self($strings);
    }

    public function type(): RecordType
    {
        return RecordType::of(RecordType::TXT);
    }

    public function wire(?NameCompressor $names = null, int $offset = 0): string
    {
        return implode('', array_map(static fn (string $s): string => chr(strlen($s)).$s, $this->strings));
    }

    public function canonical(): string
    {
        return $this->wire();
    }

    public function text(): string
    {
        return implode(' ', array_map(Fields::quote(...), $this->strings));
    }

    /** What a reader that joins the strings sees (SPF, RFC 7208 §3.3). */
    public function joined(): string
    {
        return implode('', $this->strings);
    }

    /** @param  non-empty-list<string>  $strings */
    private static function checked(array $strings): self
    {
        $size = array_sum(array_map(strlen(...), $strings)) + count($strings);

        return $size <= 0xFFFF
            ? new self($strings)
            : throw Malformed::because("the data has $size bytes, 65535 are allowed", 'RFC 1035 §3.2.1');
    }
}
