<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\BadOption;

/** Bytes without a known shape, as hexadecimal digits. */
final readonly class Opaque implements ValueShape
{
    public function hint(): string
    {
        return 'hexadecimal digits';
    }

    public function encode(array $values): string
    {
        try {
            return Hex::parse(implode(' ', $values));
        } catch (MalformedBytes $e) {
            throw BadOption::value(implode(' ', $values), $e->expected);
        }
    }

    public function decode(string $payload): array
    {
        return [Hex::spaced($payload)];
    }
}
