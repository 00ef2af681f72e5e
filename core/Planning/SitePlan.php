<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

use HarborPost\Core\Net\Prefix;

/** What one site got: a supernet that summarises it, and the subnets in it; null where nothing was open for it. */
final readonly class SitePlan
{
    /** @param  list<PlannedSubnet>  $subnets  in address order */
    public function __construct(
        public string $site,
        /** the IPv4 length it needs */
        public int $length,
        public ?Prefix $prefix,
        public array $subnets,
        /** the IPv6 length it needs; null when it wants none */
        public ?int $length6 = null,
        public ?Prefix $prefix6 = null,
    ) {
    }

    /** Addresses that its subnets take. */
    public function taken(): int
    {
        return array_sum(array_map(static fn (PlannedSubnet $s): int => 1 << (32 - $s->need->length()), $this->subnets));
    }

    /** Addresses of its block. */
    public function held(): int
    {
        return 1 << (32 - $this->length);
    }

    /** Share of its block that stays open, 0 to 1. */
    public function headroom(): float
    {
        return 1 - $this->taken() / $this->held();
    }
}
