<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V4;

/** What a DHCP message is (RFC 2132 §9.6). */
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

    public function label(): string
    {
        return strtoupper($this->name);
    }
}
