<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V6;

use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\NotUnderstood;

/** By what clients and servers of DHCPv6 know each other, for as long as they live (RFC 8415 §11, RFC 6355). */
final readonly class Duid implements \Stringable
{
    /** Two bytes of type, and from 1 to 128 behind them (RFC 8415 §11.1). */
    private const LEAST = 3;

    private const MOST = 130;

    private const LINK_LAYER_TIME = 1;

    private const ENTERPRISE = 2;

    private const LINK_LAYER = 3;

    private const UUID = 4;

    private const ETHERNET = 1;

    /** Seconds from 1970 to 2000, from when times of a DUID count. */
    private const EPOCH = 946_684_800;

    private function __construct(public string $bytes)
    {
    }

    /**
     * Hexadecimal, with colons, dashes or blanks between bytes or none, and 0x before it or not.
     *
     * @throws NotUnderstood
     */
    public static function parse(string $text): self
    {
        try {
            $bytes = Hex::parse(trim($text));
        } catch (MalformedBytes $e) {
            throw NotUnderstood::at($text, min($e->offset, strlen($text)), "a DUID in hexadecimal: {$e->expected}");
        }

        return self::tryFrom($bytes)
            ?? throw NotUnderstood::at($text, strlen($text),
                sprintf('a DUID of %d to %d bytes, not %d', self::LEAST, self::MOST, strlen($bytes)));
    }

    public static function tryParse(string $text): ?self
    {
        try {
            return self::parse($text);
        } catch (NotUnderstood) {
            return null;
        }
    }

    public static function tryFrom(string $bytes): ?self
    {
        return strlen($bytes) < self::LEAST || strlen($bytes) > self::MOST ? null : new self($bytes);
    }

    /** DUID-LL of an Ethernet interface (RFC 8415 §11.4). */
    public static function ofMac(MacAddress $mac): self
    {
        return new self(pack('nn', self::LINK_LAYER, self::ETHERNET).$mac->bytes);
    }

    /** DUID-UUID (RFC 6355 §4), made of any name that stays. */
    public static function ofName(string $name): self
    {
        return new self(pack('n', self::UUID).substr(hash('sha256', $name, true), 0, 16));
    }

    /** The Ethernet address that stands in it. It need not be the one that the client uses now. */
    public function mac(): ?MacAddress
    {
        $at = match ($this->type()) {
            self::LINK_LAYER_TIME => 8,
            self::LINK_LAYER => 4,
            default => null,
        };

        return $at !== null && strlen($this->bytes) === $at + 6 && $this->number(2) === self::ETHERNET
            ? MacAddress::fromBytes(substr($this->bytes, $at))
            : null;
    }

    /** What kind it is and what it says, for people. */
    public function words(): string
    {
        $mac = $this->mac();

        return match (true) {
            $this->type() === self::LINK_LAYER_TIME && $mac !== null => "DUID-LLT of $mac, made "
                .gmdate('j M Y', self::EPOCH + $this->number(4, 4)),
            $this->type() === self::LINK_LAYER && $mac !== null => "DUID-LL of $mac",
            $this->type() === self::ENTERPRISE && strlen($this->bytes) > 6 => 'DUID-EN of enterprise '.$this->number(2, 4),
            $this->type() === self::UUID && strlen($this->bytes) === 18 => 'DUID-UUID '
                .preg_replace('/(.{8})(.{4})(.{4})(.{4})/', '$1-$2-$3-$4-', bin2hex(substr($this->bytes, 2))),
            default => 'DUID of type '.$this->type(),
        };
    }

    public function equals(?self $other): bool
    {
        return $this->bytes === $other?->bytes;
    }

    public function __toString(): string
    {
        return implode(':', str_split(bin2hex($this->bytes), 2));
    }

    private function type(): int
    {
        return $this->number(0);
    }

    private function number(int $at, int $bytes = 2): int
    {
        return (int) hexdec(bin2hex(substr($this->bytes, $at, $bytes)));
    }
}
