<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

use HarborPost\Core\Net\Prefix;
use HarborPost\Core\Net\PrefixSet;

/** A whole plan: sites in the order of the table, and what did not fit with what would make it fit. */
final readonly class AddressPlan
{
    /**
     * @param  list<SitePlan>  $sites
     * @param  list<array{site: string, family: int, length: int, largest: ?int}>  $unplaced  sites without a place: the length they need,
     *     and the largest that was open
     * @param  array<int, int>  $wouldFit  family → length of one further block that would hold all of the family's unplaced sites
     */
    public function __construct(public Strategy $strategy, public array $sites, public array $unplaced, public array $wouldFit)
    {
    }

    public function isWhole(): bool
    {
        return $this->unplaced === [];
    }

    /** @return list<Prefix> the fewest prefixes that cover the blocks of all sites: the routes above them */
    public function summary(): array
    {
        $blocks = [];
        foreach ($this->sites as $site) {
            $blocks = [...$blocks, ...array_values(array_filter([$site->prefix, $site->prefix6]))];
        }

        return PrefixSet::of(...$blocks)->prefixes();
    }

    /** IPv4 routes that the sites announce: one each. */
    public function routes(): int
    {
        return count(array_filter($this->sites, static fn (SitePlan $s): bool => $s->prefix !== null));
    }

    /**
     * IPv4 addresses: wanted at the end of the years with gateway, network and broadcast; in subnets; in the sites' blocks.
     *
     * @return array{wanted: int, taken: int, held: int}
     */
    public function totals(): array
    {
        $wanted = $taken = $held = 0;
        foreach ($this->sites as $site) {
            $wanted += array_sum(array_map(static fn (PlannedSubnet $s): int => $s->need->hostsThen() + 3, $site->subnets));
            $taken += $site->taken();
            $held += $site->held();
        }

        return ['wanted' => $wanted, 'taken' => $taken, 'held' => $held];
    }
}
