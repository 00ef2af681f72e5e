<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange\V6;

use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Net\Prefix;

/** What a server has to write down before its answer leaves. */
final readonly class Grant
{
    /** @param  'active'|'released'|'declined'  $state */
    public function __construct(
        public string $key,
        public Duid $client,
        public int $iaid,
        public Prefix $net,
        public string $state,
        /** seconds from now; 0 when it ends at once */
        public int $valid,
        public int $preferred,
        public string $why,
    ) {
    }
}
