<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange\V6;

use Brick\Math\BigInteger;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix;

/** A prefix from which parts of one length are handed out to routers (RFC 8415 §6.3); written as `2001:db8:40::/44 as /56`. */
final readonly class Delegation implements \Stringable
{
    private function __construct(public Prefix $pool, public int $length)
    {
    }

    /** @throws NotUnderstood when the parts are not smaller than the pool, or no IPv6 */
    public static function of(Prefix $pool, int $length): self
    {
        if ($pool->family()->value !== 6) {
            throw NotUnderstood::at((string) $pool, 0, 'an IPv6 prefix');
        }
        if ($length < $pool->length || $length > 64) {
            throw NotUnderstood::at("$pool as /$length", strlen("$pool as /"), "a length from $pool->length to 64");
        }

        return new self($pool, $length);
    }

    /** @throws NotUnderstood */
    public static function parse(string $text): self
    {
        if (preg_match('~\A\s*(\S+/\d{1,3})\s+as\s+/?(\d{1,3})\s*\z~i', $text, $m) !== 1) {
            throw NotUnderstood::at($text, 0, 'a pool and the length of its parts, such as "2001:db8:40::/44 as /56"');
        }

        return self::of(Prefix::parse($m[1]), (int) $m[2]);
    }

    public function count(): BigInteger
    {
        return BigInteger::of(2)->power($this->length - $this->pool->length);
    }

    public function part(BigInteger $number): ?Prefix
    {
        return $this->pool->first->plus($number->multipliedBy(BigInteger::of(2)->power(128 - $this->length)))?->in($this->length);
    }

    public function holds(Prefix $part): bool
    {
        return $part->length === $this->length && $this->pool->contains($part);
    }

    public function __toString(): string
    {
        return "$this->pool as /$this->length";
    }
}
