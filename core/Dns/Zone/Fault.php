<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Zone;

/** Something in a zone file that cannot be read as it stands, or was read in spite of the standard. */
final readonly class Fault
{
    public function __construct(
        public string $code,
        /** error: the record is left out; note: it was read */
        public string $severity,
        /** from 1 */
        public int $line,
        /** in characters, from 1 */
        public int $column,
        public string $message,
        public string $standard,
        public ?string $owner = null,
        public ?string $type = null,
    ) {
    }
}
