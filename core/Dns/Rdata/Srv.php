<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Dns\RecordType;

/** Where a service is: priority, weight, port, host (RFC 2782); the host is never compressed. */
final readonly class Srv implements BuiltRdata, PointsAt
{
    public function __construct(public int $priority, public int $weight, public int $port, public Name $host)
    {
    }

    public static function fromText(Fields $fields): self
    {
        return new self(
            $fields->number('the priority', 16),
            $fields->number('the weight', 16),
            $fields->number('the port', 16),
            $fields->name('the host'),
        );
    }

    public static function fromWire(ByteReader $reader): self
    {
        return new self($reader->uint16(), $reader->uint16(), $reader->uint16(), Name::fromWire($reader));
    }

    public function type(): RecordType
    {
        return RecordType::of(RecordType::SRV);
    }

    public function wire(?NameCompressor $names = null, int $offset = 0): string
    {
        return pack('n3', $this->priority, $this->weight, $this->port).$this->host->wire;
    }

    public function canonical(): string
    {
        return pack('n3', $this->priority, $this->weight, $this->port).$this->host->key();
    }

    public function text(): string
    {
        return "$this->priority $this->weight $this->port {$this->host->lower()}";
    }

    public function target(): Name
    {
        return $this->host;
    }
}
