<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Dns\RecordType;

/** How the zone's names are hashed, for the servers that answer from it (RFC 5155 §4). */
final readonly class Nsec3param implements BuiltRdata
{
    public function __construct(public int $algorithm, public int $flags, public int $iterations, public string $salt)
    {
    }

    public static function fromText(Fields $fields): self
    {
        return new self(...Nsec3::parameters($fields));
    }

    public static function fromWire(ByteReader $reader): self
    {
        return new self($reader->uint8(), $reader->uint8(), $reader->uint16(), $reader->take($reader->uint8()));
    }

    public function type(): RecordType
    {
        return RecordType::of(RecordType::NSEC3PARAM);
    }

    public function wire(?NameCompressor $names = null, int $offset = 0): string
    {
        return pack('CCn', $this->algorithm, $this->flags, $this->iterations).chr(strlen($this->salt)).$this->salt;
    }

    public function canonical(): string
    {
        return $this->wire();
    }

    public function text(): string
    {
        return "$this->algorithm $this->flags $this->iterations ".Nsec3::saltText($this->salt);
    }
}
