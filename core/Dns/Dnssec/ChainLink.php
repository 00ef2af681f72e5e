<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Dnskey;
use HarborPost\Core\Dns\Rdata\Ds;

/** One zone on the way from the anchor to an answer: what vouches for it and the keys that it has. */
final readonly class ChainLink
{
    /**
     * @param  bool  $anchor  trusted by configuration, not by its parent
     * @param  list<Ds>  $ds  what names its keys
     * @param  list<Dnskey>  $keys  empty when the zone is not signed, or its keys are not believed
     */
    public function __construct(
        public Name $zone,
        public Trust $trust,
        public bool $anchor,
        public array $ds = [],
        public array $keys = [],
        public ?Fault $fault = null,
    ) {
    }
}
