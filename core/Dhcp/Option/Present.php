<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Dhcp\BadOption;

/** An option without a payload: that it is there is all it says. */
final readonly class Present implements ValueShape
{
    private const WORD = 'present';

    public function encode(array $values): string
    {
        return $values === [self::WORD] ? '' : throw BadOption::value(implode(', ', $values), $this->hint());
    }

    public function decode(string $payload): array
    {
        return $payload === '' ? [self::WORD] : throw BadOption::bytes(0, 'no payload');
    }

    public function hint(): string
    {
        return 'the word "'.self::WORD.'"; the option carries nothing';
    }
}
