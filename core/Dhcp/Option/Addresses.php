<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\NotUnderstood;

/** Addresses of one family, four or sixteen bytes each: exactly one, or one and more. */
final readonly class Addresses implements ValueShape
{
    public function __construct(private bool $one = false, private bool $mayBeEmpty = false, private Family $family = Family::V4)
    {
    }

    public function hint(): string
    {
        return $this->one ? "an {$this->kind()} address" : "{$this->kind()} addresses in order of preference";
    }

    public function encode(array $values): string
    {
        if ($this->one && count($values) !== 1 || $values === [] && ! $this->mayBeEmpty) {
            throw BadOption::value(implode(' ', $values), ($this->one ? 'exactly' : 'at least')." one {$this->kind()} address");
        }

        return implode('', array_map(fn (string $v): string => self::bytes($v, $this->family), $values));
    }

    public function decode(string $payload): array
    {
        $size = $this->family->bytes();
        $count = intdiv(strlen($payload), $size);
        if (strlen($payload) % $size !== 0 || $count === 0 && ! $this->mayBeEmpty || $this->one && $count !== 1) {
            throw BadOption::bytes(
                $count * $size,
                $this->one ? "an {$this->kind()} address has $size bytes" : "{$this->kind()} addresses have $size bytes each",
            );
        }

        return $payload === '' ? [] : array_map(static fn (string $b): string => (string) Address::fromBytes($b),
            str_split($payload, $size));
    }

    private function kind(): string
    {
        return "IPv{$this->family->value}";
    }

    /** @internal shared with shapes that hold addresses among other things */
    public static function bytes(string $value, Family $family = Family::V4): string
    {
        try {
            $address = Address::parse(trim($value));
        } catch (NotUnderstood $e) {
            throw BadOption::value($value, $e->expected);
        }

        return $address->family === $family ? $address->bytes : throw BadOption::value($value, "an IPv$family->value address");
    }
}
