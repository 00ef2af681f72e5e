<?php

declare(strict_types=1);

namespace HarborPost\Core\Net;

use Brick\Math\BigInteger;

/** An IPv4 or IPv6 address: 4 or 16 bytes. Written as RFC 5952 says; equal addresses have equal text. */
final readonly class Address implements \Stringable
{
    private function __construct(public string $bytes, public Family $family)
    {
    }

    /** @throws \LengthException unless there are 4 or 16 bytes */
    public static function fromBytes(string $bytes): self
    {
        return new self($bytes, Family::ofBytes($bytes));
    }

    /**
     * Dotted decimal without leading zeros, or IPv6 text by RFC 4291 §2.2.
     *
     * @throws NotUnderstood pointing at the character
     */
    public static function parse(string $text): self
    {
        return self::fromBytes(AddressText::bytes($text));
    }

    public static function tryParse(string $text): ?self
    {
        try {
            return self::parse($text);
        } catch (NotUnderstood) {
            return null;
        }
    }

    public function equals(self $other): bool
    {
        return $this->bytes === $other->bytes;
    }

    /** Below zero, zero or above: IPv4 before IPv6, then by value. */
    public function compare(self $other): int
    {
        return $this->family === $other->family ? strcmp($this->bytes, $other->bytes) : $this->family->value <=> $other->family->value;
    }

    public function next(): ?self
    {
        $bytes = Bits::next($this->bytes);

        return $bytes === null ? null : new self($bytes, $this->family);
    }

    public function previous(): ?self
    {
        $bytes = Bits::previous($this->bytes);

        return $bytes === null ? null : new self($bytes, $this->family);
    }

    /** This address and as many further on; null when that passes the end of the family. */
    public function plus(int|string|BigInteger $count): ?self
    {
        $sum = $this->toInteger()->plus($count);

        return $sum->isNegative() || $sum->getBitLength() > $this->family->bits() ? null : self::fromInteger($sum, $this->family);
    }

    /** How many addresses further on than the other one; negative before it. */
    public function minus(self $other): BigInteger
    {
        return $this->toInteger()->minus($other->toInteger());
    }

    public function toInteger(): BigInteger
    {
        return BigInteger::fromBytes($this->bytes, false);
    }

    public static function fromInteger(BigInteger $value, Family $family): self
    {
        $bytes = ltrim($value->toBytes(false), "\0");

        return self::fromBytes(str_pad($bytes, $family->bytes(), "\0", STR_PAD_LEFT));
    }

    /** The prefix of this length that holds the address. */
    public function in(int $length): Prefix
    {
        return Prefix::around($this, $length);
    }

    public function __toString(): string
    {
        return AddressText::of($this->bytes);
    }
}
