<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Net\Address;

/** Data that is an address: A and AAAA. */
interface HoldsAddress
{
    public function address(): Address;
}
