<?php

declare(strict_types=1);

namespace HarborPost\Core\Net;

use Brick\Math\BigInteger;

/** A network and its length: every host bit of the first address is zero. */
final readonly class Prefix implements \Stringable
{
    private function __construct(public Address $first, public int $length)
    {
    }

    /** @throws NotUnderstood when host bits are set or the length does not fit the family */
    public static function of(Address $first, int $length): self
    {
        $prefix = self::around($first, $length);
        if (! $prefix->first->equals($first)) {
            throw NotUnderstood::hostBits("$first/$length", (string) $prefix);
        }

        return $prefix;
    }

    /** The prefix of that length which holds the address: host bits are cleared. */
    public static function around(Address $address, int $length): self
    {
        $bits = $address->family->bits();
        if ($length < 0 || $length > $bits) {
            throw NotUnderstood::at("$address/$length", strlen("$address/"), "a length from 0 to $bits");
        }

        return new self(Address::fromBytes($address->bytes & Bits::mask($address->family->bytes(), $length)), $length);
    }

    /**
     * `10.1.2.0/24`, an address with a mask, a range that is a prefix, or a bare address. Host bits are refused with the network as
     * suggestion.
     *
     * @throws NotUnderstood
     */
    public static function parse(string $text): self
    {
        $understood = Understood::from($text);
        $prefix = $understood->prefix
            ?? throw NotUnderstood::at($text, 0, 'a prefix; this range is none, it takes '.count($understood->range->prefixes()));
        if ($understood->hostBits) {
            throw NotUnderstood::hostBits(trim($text), (string) $prefix);
        }

        return $prefix;
    }

    public static function tryParse(string $text): ?self
    {
        try {
            return self::parse($text);
        } catch (NotUnderstood) {
            return null;
        }
    }

    public function family(): Family
    {
        return $this->first->family;
    }

    public function last(): Address
    {
        return Address::fromBytes($this->first->bytes | Bits::hostMask($this->family()->bytes(), $this->length));
    }

    public function mask(): Address
    {
        return Address::fromBytes(Bits::mask($this->family()->bytes(), $this->length));
    }

    public function wildcard(): Address
    {
        return Address::fromBytes(Bits::hostMask($this->family()->bytes(), $this->length));
    }

    /** How many addresses it holds. */
    public function size(): BigInteger
    {
        return BigInteger::of(2)->power($this->family()->bits() - $this->length);
    }

    /**
     * The first and last address a host may have: all of a /31 (RFC 3021), /32, /127 (RFC 6164) and /128; IPv4 without
     * network and broadcast; IPv6 without the subnet-router anycast address (RFC 4291 §2.6.1).
     */
    public function usable(): AddressRange
    {
        if ($this->length >= $this->family()->bits() - 1) {
            return $this->range();
        }
        $first = Bits::next($this->first->bytes) ?? $this->first->bytes;
        $last = $this->last()->bytes;

        return AddressRange::of(
            Address::fromBytes($first),
            Address::fromBytes($this->family() === Family::V4 ? Bits::previous($last) ?? $last : $last),
        );
    }

    /** The broadcast address; IPv6, /31 and /32 have none. */
    public function broadcast(): ?Address
    {
        return $this->family() === Family::V4 && $this->length < 31 ? $this->last() : null;
    }

    public function range(): AddressRange
    {
        return AddressRange::of($this->first, $this->last());
    }

    public function contains(Address|self $inner): bool
    {
        $address = $inner instanceof self ? $inner->first : $inner;
        if ($inner instanceof self && $inner->length < $this->length || $address->family !== $this->family()) {
            return false;
        }

        return ($address->bytes & Bits::mask($this->family()->bytes(), $this->length)) === $this->first->bytes;
    }

    public function overlaps(self $other): bool
    {
        return $this->contains($other) || $other->contains($this);
    }

    /** The prefix one bit shorter; null for the whole family. */
    public function supernet(): ?self
    {
        return $this->length === 0 ? null : self::around($this->first, $this->length - 1);
    }

    /** The other half of the supernet; null for the whole family. */
    public function sibling(): ?self
    {
        return $this->length === 0 ? null : new self(Address::fromBytes(Bits::flip($this->first->bytes, $this->length - 1)), $this->length);
    }

    /** @return array{self, self}|null the two halves; null for a single address */
    public function halves(): ?array
    {
        if ($this->length === $this->family()->bits()) {
            return null;
        }
        $low = new self($this->first, $this->length + 1);

        return [$low, new self(Address::fromBytes(Bits::flip($this->first->bytes, $this->length)), $this->length + 1)];
    }

    public function equals(self $other): bool
    {
        return $this->length === $other->length && $this->first->equals($other->first);
    }

    /** By address, then the shorter prefix first: a tree in reading order. */
    public function compare(self $other): int
    {
        return $this->first->compare($other->first) ?: $this->length <=> $other->length;
    }

    public function __toString(): string
    {
        return "$this->first/$this->length";
    }
}
