<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Client;

use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\NotUnderstood;

/** By what a server knows a client again: its hardware address, or the client identifier it sends (RFC 2131 §2, RFC 2132 §9.14). */
final readonly class ClientKey implements \Stringable
{
    /** The least and the most bytes of an identifier; a DUID has up to 130 (RFC 8415 §11.1). */
    private const LEAST = 2;

    private const MOST = 130;

    private function __construct(public ?MacAddress $mac, public ?string $identifier)
    {
    }

    /**
     * A MAC address, or the bytes of option 61 as 0x…; those of Ethernet's type are the MAC address that stands in them.
     *
     * @throws NotUnderstood
     */
    public static function parse(string $text): self
    {
        $body = trim($text);
        if (stripos($body, '0x') !== 0) {
            return new self(MacAddress::parse($text), null);
        }
        try {
            $bytes = Hex::parse($body);
        } catch (MalformedBytes $e) {
            throw NotUnderstood::at($text, min($e->offset, strlen($text)), $e->expected);
        }

        return self::ofIdentifier($bytes)
            ?? throw NotUnderstood::at($text, strlen($text), sprintf('%d to %d bytes of a client identifier', self::LEAST, self::MOST));
    }

    public static function ofMac(MacAddress $mac): self
    {
        return new self($mac, null);
    }

    /** @param  string  $bytes  payload of option 61 */
    public static function ofIdentifier(string $bytes): ?self
    {
        return match (true) {
            strlen($bytes) < self::LEAST || strlen($bytes) > self::MOST => null,
            strlen($bytes) === 7 && $bytes[0] === "\1" => new self(MacAddress::fromBytes(substr($bytes, 1)), null),
            default => new self(null, $bytes),
        };
    }

    public function equals(self $other): bool
    {
        return $this->mac?->bytes === $other->mac?->bytes && $this->identifier === $other->identifier;
    }

    public function __toString(): string
    {
        return $this->mac !== null ? (string) $this->mac : '0x'.bin2hex((string) $this->identifier);
    }
}
