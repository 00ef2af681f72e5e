<?php

declare(strict_types=1);

namespace App\Models;

/** How far a shipment to a server has come. */
enum ShipmentState: string
{
    case Waiting = 'waiting';
    case Running = 'running';
    case Done = 'done';
    case Partial = 'partial';
    case Failed = 'failed';
    case Cancelled = 'cancelled';

    /** Those of a shipment that goes on. */
    public const RUNS = [self::Waiting, self::Running];

    /** Those of a shipment that ended and left something where it was. */
    public const FELL_SHORT = [self::Partial, self::Failed];
}
