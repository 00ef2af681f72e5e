<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Dns\RecordType;

/** The next name of the zone and the types that this one has: what is between and beside does not exist (RFC 4034 §4.1). */
final readonly class Nsec implements BuiltRdata
{
    public function __construct(public Name $next, public TypeBitmap $types)
    {
    }

    public static function fromText(Fields $fields): self
    {
        return new self($fields->name('the next name'), TypeBitmap::fromText($fields));
    }

    public static function fromWire(ByteReader $reader): self
    {
        return new self(Name::fromWire($reader), TypeBitmap::fromWire($reader));
    }

    public function type(): RecordType
    {
        return RecordType::of(RecordType::NSEC);
    }

    public function wire(?NameCompressor $names = null, int $offset = 0): string
    {
        return $this->next->wire.$this->types->wire();
    }

    /** The next name keeps its case (RFC 6840 §5.1). */
    public function canonical(): string
    {
        return $this->wire();
    }

    public function text(): string
    {
        return rtrim($this->next.' '.$this->types->text());
    }
}
