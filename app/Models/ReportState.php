<?php

declare(strict_types=1);

namespace App\Models;

/** What came of one run of a report for one person. */
enum ReportState: string
{
    case Running = 'running';
    case Done = 'done';
    case Empty = 'empty';
    case Failed = 'failed';

    public function mark(): string
    {
        return match ($this) {
            self::Running => 'wait',
            self::Done, self::Empty => 'ok',
            self::Failed => 'stop',
        };
    }
}
