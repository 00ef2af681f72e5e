<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange\Pair;

/** What an address is to a pair (RFC 8156 §7.2). */
enum BindingState: string
{
    /** both servers agree that nobody has it: its owner may give it */
    case Available = 'available';
    case Active = 'active';
    /** ended by time, until both agree */
    case Expired = 'expired';
    /** given back by its client, until both agree */
    case Released = 'released';
    /** found in use by somebody else (RFC 2131 §4.3.3) */
    case Declined = 'declined';

    public function isEnded(): bool
    {
        return $this === self::Expired || $this === self::Released;
    }
}
