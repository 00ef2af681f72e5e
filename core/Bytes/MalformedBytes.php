<?php

declare(strict_types=1);

namespace HarborPost\Core\Bytes;

/** Bytes that do not hold what their format promises; says at which offset (from 0) and what was expected. */
final class MalformedBytes extends \UnexpectedValueException
{
    private function __construct(string $message, public readonly int $offset, public readonly string $expected)
    {
        parent::__construct($message);
    }

    public static function at(int $offset, string $expected): self
    {
        return new self("byte $offset: $expected", $offset, $expected);
    }
}
