<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Dns\RecordType;

/** The options of an EDNS pseudo-record (RFC 6891 §6.1.2): pairs of code and bytes. It never stands in a zone. */
final readonly class Opt implements BuiltRdata
{
    /** @param  list<array{int, string}>  $options */
    public function __construct(public array $options = [])
    {
    }

    /** The generic form: pairs of code and hexadecimal digits. */
    public static function fromText(Fields $fields): self
    {
        $options = [];
        while (! $fields->atEnd()) {
            $options[] = [$fields->number('the option code', 16), Hex::parse($fields->raw('the option data'))];
        }

        return new self($options);
    }

    public static function fromWire(ByteReader $reader): self
    {
        $options = [];
        while (! $reader->atEnd()) {
            $options[] = [$reader->uint16(), $reader->take($reader->uint16())];
        }

        return new self($options);
    }

    public function type(): RecordType
    {
        return RecordType::of(RecordType::OPT);
    }

    public function wire(?NameCompressor $names = null, int $offset = 0): string
    {
        return implode('', array_map(static fn (array $o): string => pack('nn', $o[0], strlen($o[1])).$o[1], $this->options));
    }

    public function canonical(): string
    {
        return $this->wire();
    }

    public function text(): string
    {
        return implode(' ', array_map(static fn (array $o): string => $o[0].' '.bin2hex($o[1]), $this->options));
    }
}
