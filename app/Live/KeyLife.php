<?php

declare(strict_types=1);

namespace App\Live;

/** The course of a key on a line of time, in seconds since 1970; null is not known yet. */
final readonly class KeyLife
{
    public function __construct(
        public ?int $published,
        public ?int $starts,
        /** it did start, and is not only foreseen to */
        public bool $started,
        public ?int $retired,
        public ?int $ends,
        public bool $ended,
        /** its successor is to be published */
        public ?int $successor,
    ) {
    }
}
