<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Acts\Engine\Act;

/** What a server runs against what it is meant to run, difference by difference, each of which can be taken into the plan. */
interface Takable
{
    /** @return array<string, DriftLine> by key */
    public function lines(): array;

    /**
     * @param  list<string>  $keys  of the differences to take; those that cannot be taken are passed over
     * @return list<Act>
     */
    public function acts(array $keys): array;

    /** @return list<string> ids of what a shipment puts back to the plan, as {@see \App\Links\Difference} names it */
    public function undone(): array;
}
