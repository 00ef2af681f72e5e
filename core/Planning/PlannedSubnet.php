<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

use HarborPost\Core\Net\Prefix;

/** A need and the place the planner gave it. */
final readonly class PlannedSubnet
{
    public function __construct(public Need $need, public ?Prefix $prefix, public ?Prefix $prefix6 = null)
    {
    }

    /** Host addresses beyond those wanted at the end of the years and the gateway. */
    public function spare(): int
    {
        return $this->prefix === null ? 0 : $this->prefix->usable()->size()->toInt() - $this->need->hostsThen() - 1;
    }
}
