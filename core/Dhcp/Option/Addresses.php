<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\NotUnderstood;

/** IPv4 addresses, four bytes each: exactly one, or one and more. */
final readonly class Addresses implements ValueShape
{
    public function __construct(private bool $one = false, private bool $mayBeEmpty = false)
    {
    }

    public function hint(): string
    {
        return $this->one ? 'an IPv4 address' : 'IPv4 addresses in order of preference';
    }

    public function encode(array $values): string
    {
        if ($this->one && count($values) !== 1 || $values === [] && ! $this->mayBeEmpty) {
            throw BadOption::value(implode(' ', $values), $this->one ? 'exactly one IPv4 address' : 'at least one IPv4 address');
        }

        return implode('', array_map(self::bytes(...), $values));
    }

    public function decode(string $payload): array
    {
        $count = intdiv(strlen($payload), 4);
        if (strlen($payload) % 4 !== 0 || $count === 0 && ! $this->mayBeEmpty || $this->one && $count !== 1) {
            throw BadOption::bytes($count * 4, $this->one ? 'an IPv4 address has 4 bytes' : 'IPv4 addresses have 4 bytes each');
        }

        return $payload === '' ? [] : array_map(static fn (string $b): string => (string) Address::fromBytes($b), str_split($payload, 4));
    }

    /** @internal shared with shapes that hold addresses among other things */
    public static function bytes(string $value): string
    {
        try {
            $address = Address::parse(trim($value));
        } catch (NotUnderstood $e) {
            throw BadOption::value($value, $e->expected);
        }

        return $address->family === Family::V4 ? $address->bytes : throw BadOption::value($value, 'an IPv4 address');
    }
}
