<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;

/** An IPv4 address of the owner (RFC 1035 §3.4.1). */
final readonly class A implements BuiltRdata, HoldsAddress
{
    private function __construct(public Address $address)
    {
    }

    public static function of(Address $address): self
    {
        return $address->family === Family::V4
            ? new self($address)
            : throw Malformed::because("an IPv4 address, not $address", 'RFC 1035 §3.4.1');
    }

    public static function fromText(Fields $fields): self
    {
        return new self($fields->address(Family::V4));
    }

    public static function fromWire(ByteReader $reader): self
    {
        return new self(Address::fromBytes($reader->take(4)));
    }

    public function type(): RecordType
    {
        return RecordType::of(RecordType::A);
    }

    public function wire(?NameCompressor $names = null, int $offset = 0): string
    {
        return $this->address->bytes;
    }

    public function canonical(): string
    {
        return $this->address->bytes;
    }

    public function text(): string
    {
        return (string) $this->address;
    }

    public function address(): Address
    {
        return $this->address;
    }
}
