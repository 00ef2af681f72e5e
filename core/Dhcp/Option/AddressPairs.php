<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Net\Address;

/** Pairs of IPv4 addresses, eight bytes each: destination and router (option 33), address and mask (option 21). */
final readonly class AddressPairs implements ValueShape
{
    public function hint(): string
    {
        return 'pairs of IPv4 addresses as "FIRST SECOND"';
    }

    public function encode(array $values): string
    {
        $payload = '';
        foreach ($values as $value) {
            $parts = preg_split('/\s+/', trim($value)) ?: [];
            $payload .= count($parts) === 2
                ? Addresses::bytes($parts[0]).Addresses::bytes($parts[1])
                : throw BadOption::value($value, 'two IPv4 addresses');
        }

        return $payload !== '' ? $payload : throw BadOption::value('', 'at least one pair');
    }

    public function decode(string $payload): array
    {
        if ($payload === '' || strlen($payload) % 8 !== 0) {
            throw BadOption::bytes(intdiv(strlen($payload), 8) * 8, 'pairs of IPv4 addresses have 8 bytes each');
        }

        return array_map(
            static fn (string $b): string => Address::fromBytes(substr($b, 0, 4)).' '.Address::fromBytes(substr($b, 4)),
            str_split($payload, 8),
        );
    }
}
