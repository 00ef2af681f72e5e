<?php

declare(strict_types=1);

namespace App\View\Joined;

/** One thing of a drawing of joined boxes, with what hangs on it. */
final readonly class Box
{
    /**
     * @param  list<string>  $lines  what is said of it, below its name
     * @param  ?float  $left  of a time that runs out the share that is left, 0 to 1; null: it has no clock
     * @param  list<Box>  $next
     */
    public function __construct(
        public string $name,
        public array $lines = [],
        public ?string $link = null,
        public Sign $sign = Sign::Plain,
        public ?float $left = null,
        public array $next = [],
    ) {
    }
}
