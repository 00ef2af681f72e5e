<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Dns\RecordType;

/** A name server of the zone (RFC 1035 §3.3.11). */
final readonly class Ns implements BuiltRdata, PointsAt
{
    public function __construct(public Name $target)
    {
    }

    public static function fromText(Fields $fields): self
    {
        return new self($fields->name('the target name'));
    }

    public static function fromWire(ByteReader $reader): self
    {
        return new self(Name::fromWire($reader));
    }

    public function type(): RecordType
    {
        return RecordType::of(RecordType::NS);
    }

    public function wire(?NameCompressor $names = null, int $offset = 0): string
    {
        return $names === null ? $this->target->wire : $names->encode($this->target, $offset);
    }

    public function canonical(): string
    {
        return $this->target->key();
    }

    public function text(): string
    {
        return (string) $this->target->lower();
    }

    public function target(): Name
    {
        return $this->target;
    }
}
