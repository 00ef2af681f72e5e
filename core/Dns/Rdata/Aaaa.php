<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;

/** An IPv6 address of the owner (RFC 3596 §2.2). */
final readonly class Aaaa implements BuiltRdata, HoldsAddress
{
    private function __construct(public Address $address)
    {
    }

    public static function of(Address $address): self
    {
        return $address->family === Family::V6
            ? new self($address)
            : throw Malformed::because("an IPv6 address, not $address", 'RFC 3596 §2.2');
    }

    public static function fromText(Fields $fields): self
    {
        return new self($fields->address(Family::V6));
    }

    public static function fromWire(ByteReader $reader): self
    {
        return new self(Address::fromBytes($reader->take(16)));
    }

    public function type(): RecordType
    {
        return RecordType::of(RecordType::AAAA);
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
