<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

/** How much room the planner leaves each site. */
enum Strategy: string
{
    /** the smallest block that holds a site's subnets */
    case Tight = 'tight';
    /** twice what a site needs, so that at least half of its block stays open */
    case Room = 'room';
    /** the same size for all sites: the one that the largest needs */
    case Fixed = 'fixed';

    /** One sentence for people. */
    public function explained(): string
    {
        return match ($this) {
            self::Tight => 'each site gets the smallest block that holds its subnets',
            self::Room => 'each site gets twice what it needs, so that at least half stays open',
            self::Fixed => 'every site gets a block of the same size, the one the largest site needs',
        };
    }
}
