<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

use HarborPost\Core\Net\AddressRange;

/** Neighbouring addresses of a subnet in the same condition. */
final readonly class Run
{
    public function __construct(
        public AddressRange $range,
        public RunKind $kind,
        /** how many addresses of the run are in use (assigned, or leased in a dynamic range) */
        public int $inUse = 0,
        public ?string $note = null,
    ) {
    }
}
