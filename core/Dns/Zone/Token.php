<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Zone;

/** A word of a zone file: escapes still in, quotes taken off. */
final readonly class Token
{
    public function __construct(public string $text, public bool $quoted, public int $line, public int $column)
    {
    }
}
