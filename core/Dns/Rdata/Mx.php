<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Dns\RecordType;

/** A mail exchanger and its preference, lowest first (RFC 1035 §3.3.9); target `.` with preference 0 takes no mail (RFC 7505). */
final readonly class Mx implements BuiltRdata, PointsAt
{
    public function __construct(public int $preference, public Name $exchange)
    {
    }

    public static function fromText(Fields $fields): self
    {
        return new self($fields->number('the preference', 16), $fields->name('the mail exchanger'));
    }

    public static function fromWire(ByteReader $reader): self
    {
        return new self($reader->uint16(), Name::fromWire($reader));
    }

    public function type(): RecordType
    {
        return RecordType::of(RecordType::MX);
    }

    public function wire(?NameCompressor $names = null, int $offset = 0): string
    {
        return pack('n', $this->preference).($names === null ? $this->exchange->wire : $names->encode($this->exchange, $offset + 2));
    }

    public function canonical(): string
    {
        return pack('n', $this->preference).$this->exchange->key();
    }

    public function text(): string
    {
        return "$this->preference {$this->exchange->lower()}";
    }

    public function target(): Name
    {
        return $this->exchange;
    }
}
