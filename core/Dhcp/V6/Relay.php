<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V6;

use HarborPost\Core\Net\Address;

/** What one relay wrote around a message (RFC 8415 §9). */
final readonly class Relay
{
    /** @param  Address  $link  an address of the client's link; `::` when the relay tells the link by its interface alone */
    public function __construct(
        public int $hops,
        public Address $link,
        public Address $peer,
        public OptionList $options = new OptionList,
    ) {
    }
}
