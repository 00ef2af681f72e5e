<?php

declare(strict_types=1);

namespace App\Domain\Lease;

use App\Models\Pair;
use App\Models\Server;
use App\Models\Stage;

/** What a scope is to be, before it is written. */
final readonly class NewScope
{
    /**
     * @param  int  $leaseTime  seconds
     * @param  list<Server>  $servers
     * @param  list<string>  $ranges  "first-last", with "@server name" behind it when only that server may use it
     * @param  list<string>  $exclusions
     * @param  array<int, string>  $options  code → values as they are typed; blank ones are not set
     * @param  ?int  $preferred  seconds, of IPv6; null: as long as the lease is valid
     * @param  list<string>  $delegations  "pool as /length", with "@server name" behind it when only that server may use it
     */
    public function __construct(
        public string $id,
        public string $name,
        public Stage $stage,
        public int $leaseTime,
        public ?Pair $pair,
        public array $servers,
        public array $ranges,
        public array $exclusions = [],
        public bool $divide = false,
        public string $description = '',
        public array $options = [],
        public ?int $preferred = null,
        public bool $rapid = false,
        public bool $autonomous = false,
        public array $delegations = [],
    ) {
    }
}
