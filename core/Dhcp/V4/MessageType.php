<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V4;

/** What a DHCP message is (RFC 2132 §9.6; RFC 4388 and RFC 6926 for questions about leases). */
enum MessageType: int
{
    case Discover = 1;
    case Offer = 2;
    case Request = 3;
    case Decline = 4;
    case Ack = 5;
    case Nak = 6;
    case Release = 7;
    case Inform = 8;
    /** Who asks a server what it has given (RFC 4388 §6.1), and its three answers. */
    case LeaseQuery = 10;
    case LeaseUnassigned = 11;
    case LeaseUnknown = 12;
    case LeaseActive = 13;
    /** The same for many leases over TCP (RFC 6926 §6.2.1). */
    case BulkLeaseQuery = 14;
    case LeaseQueryDone = 15;

    public function label(): string
    {
        return strtoupper($this->name);
    }
}
