<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

use HarborPost\Core\Net\Family;

/** One line of a table of needs: a subnet that a site will want. */
final readonly class Need
{
    public const MOST_HOSTS = 16_000_000;

    public function __construct(
        public string $site,
        public string $purpose,
        /** hosts now */
        public int $hosts,
        /** percent a year, compounded */
        public float $growth = 0.0,
        public int $years = 0,
        public bool $v6 = false,
        /** a number, `110+` (the first free from 110 on) or `200-299` (the first free in the range); blank for none */
        public string $vlan = '',
        /** where it stands in its table, from 1 */
        public int $line = 0,
    ) {
    }

    /** Hosts at the end of the years: now × (1 + growth)^years, rounded up. */
    public function hostsThen(): int
    {
        return (int) min(self::MOST_HOSTS, ceil(round($this->hosts * (1 + $this->growth / 100) ** $this->years, 6)));
    }

    /** The IPv4 length that holds them and a gateway. */
    public function length(): int
    {
        return SizeFromNeed::length(Family::V4, $this->hostsThen()) ?? 0;
    }
}
