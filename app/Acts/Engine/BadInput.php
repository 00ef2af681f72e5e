<?php

declare(strict_types=1);

namespace App\Acts\Engine;

/** What was sent is not what the act takes: every fault at once, each at its field. */
final class BadInput extends \RuntimeException
{
    /** @param  non-empty-list<Note>  $notes */
    public function __construct(public readonly array $notes)
    {
        parent::__construct(implode('; ', array_map(static fn (Note $n): string => $n->message, $notes)));
    }
}
