<?php

declare(strict_types=1);

namespace App\Models;

/** How far a scan of addresses, a comparison of names or a run at a system outside has come. */
enum RunState: string
{
    case Waiting = 'waiting';
    case Running = 'running';
    case Done = 'done';
    /** some of it was done */
    case Partial = 'partial';
    case Failed = 'failed';
    /** somebody ended it before it was done, and nothing more comes of it */
    case Cancelled = 'cancelled';
    /** somebody ended it; what was done until then stays */
    case Stopped = 'stopped';

    /** Those of a run that goes on. */
    public const RUNS = [self::Waiting, self::Running];

    public function waits(): bool
    {
        return $this === self::Waiting;
    }

    public function runs(): bool
    {
        return in_array($this, self::RUNS, true);
    }
}
