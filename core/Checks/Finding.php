<?php

declare(strict_types=1);

namespace HarborPost\Core\Checks;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;

/** Something a rule found: what, where, by which standard, and how to mend it. */
final readonly class Finding
{
    public function __construct(
        public string $code,
        public Severity $severity,
        public string $message,
        public string $standard,
        public ?Name $owner = null,
        public ?RecordType $type = null,
        public ?string $fix = null,
    ) {
    }
}
