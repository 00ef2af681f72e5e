<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordSet;

/** A record set with its signatures: those that stay and those that were made now. */
final readonly class SignedSet
{
    /**
     * @param  bool  $made  the set itself comes from signing
     * @param  list<KeptSignature>  $stay
     * @param  list<Record>  $fresh
     */
    public function __construct(
        public RecordSet $set,
        public string $digest,
        public bool $made,
        public array $stay,
        public array $fresh,
    ) {
    }
}
