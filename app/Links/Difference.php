<?php

declare(strict_types=1);

namespace App\Links;

/** What one zone or scope on one server lacks or has too much, against the plan. */
final readonly class Difference
{
    /**
     * @param  'same'|'differs'|'new'|'gone'|'ahead'|'unreachable'|'waiting'  $state
     * @param  list<string>  $removed  lines for people, at most LISTED
     * @param  list<string>  $added
     */
    public function __construct(
        /** zone or scope */
        public string $kind,
        public string $id,
        public string $title,
        public string $state,
        public array $removed = [],
        public array $added = [],
        public int $removedCount = 0,
        public int $addedCount = 0,
        public string $message = '',
        /** the serial or digest that runs, and the one that is meant */
        public ?string $running = null,
        public ?string $intended = null,
    ) {
    }

    public const LISTED = 200;

    public function needsShipping(): bool
    {
        return in_array($this->state, ['differs', 'new', 'gone', 'ahead'], true);
    }
}
