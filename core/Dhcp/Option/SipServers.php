<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Net\Address;

/** SIP servers (RFC 3361 §3): a byte that says which, then names (0) or IPv4 addresses (1); never both. */
final readonly class SipServers implements ValueShape
{
    public function hint(): string
    {
        return 'IPv4 addresses, or domain names';
    }

    public function encode(array $values): string
    {
        $addresses = array_filter($values, static fn (string $v): bool => Address::tryParse($v) !== null);
        if ($addresses !== [] && count($addresses) !== count($values)) {
            throw BadOption::value(implode(' ', $values), 'addresses or names, not both');
        }

        return $addresses !== [] ? "\1".(new Addresses)->encode($values) : "\0".(new Names)->encode($values);
    }

    public function decode(string $payload): array
    {
        $rest = substr($payload, 1);

        return match ($payload[0] ?? '') {
            "\0" => (new Names)->decode($rest),
            "\1" => (new Addresses)->decode($rest),
            default => throw BadOption::bytes(0, '0 for names or 1 for addresses'),
        };
    }
}
