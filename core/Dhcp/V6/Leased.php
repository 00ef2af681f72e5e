<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V6;

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;

/** An address (a /128) or a prefix with its life times in seconds; 0 says that it is over (RFC 8415 §21.6, §21.22). */
final readonly class Leased
{
    /** A life time without an end. */
    public const INFINITE = 0xFFFFFFFF;

    public function __construct(public Prefix $net, public int $preferred = 0, public int $valid = 0, public ?StatusCode $status = null)
    {
    }

    public static function address(Address $address, int $preferred = 0, int $valid = 0): self
    {
        return new self($address->in(128), $preferred, $valid);
    }

    public function words(): string
    {
        return $this->net->length === 128 ? (string) $this->net->first : (string) $this->net;
    }
}
