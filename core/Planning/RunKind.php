<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

/** The condition that the addresses of a run share. Where conditions meet, the earlier case wins. */
enum RunKind: string
{
    case Network = 'network';
    case Broadcast = 'broadcast';
    case Anycast = 'anycast';
    case Gateway = 'gateway';
    case Assigned = 'assigned';
    case Held = 'held';
    case Excluded = 'excluded';
    case Dynamic = 'dynamic';
    case Open = 'open';

    /** May a host be given an address of such a run without being asked for by number? */
    public function isFree(): bool
    {
        return $this === self::Open;
    }

    /** In words, for the table beside the strip. */
    public function label(): string
    {
        return match ($this) {
            self::Anycast => 'routers of this subnet (anycast)',
            self::Assigned => 'hosts',
            self::Excluded => 'kept out of the range',
            self::Dynamic => 'dynamic range',
            default => $this->value,
        };
    }
}
