<?php

declare(strict_types=1);

namespace HarborPost\Core\Agreement;

/** A change as rules see it: how much, of which kinds, where, and whether something was warned of. */
final readonly class ChangeFacts
{
    /**
     * @param  array<string, int>  $touched  noun → rows that are written
     * @param  array<string, int>  $removed  noun → rows that are removed
     * @param  list<string>  $sites  those that it touches, and all that they stand in
     */
    public function __construct(
        public int $rows,
        public array $touched,
        public array $removed,
        public array $sites,
        public bool $warned,
    ) {
    }
}
