<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\LeaseQuery;

/** By what leases of IPv6 are asked for (RFC 5007 §4.1.2.1, RFC 5460 §5.5). */
enum QueryKind: int
{
    case Address = 1;
    case Client = 2;
    case Relay = 3;
    case Link = 4;
    case Remote = 5;
}
