<?php

declare(strict_types=1);

namespace App\Models;

/** How far an import has come. */
enum ImportState: string
{
    case Reading = 'reading';
    case Headings = 'headings';
    case Judged = 'judged';
    case Taking = 'taking';
    case Taken = 'taken';
    case Cancelled = 'cancelled';
    case Failed = 'failed';

    public function words(): string
    {
        return match ($this) {
            self::Reading => 'being read and judged',
            self::Headings => 'waits for its columns to be named',
            self::Judged => 'judged; nothing is written yet',
            self::Taking => 'being taken over as a whole',
            self::Taken => 'taken over',
            self::Cancelled => 'cancelled; nothing was written',
            self::Failed => 'stopped; nothing was written',
        };
    }

    /** Over a message: what it means that it stands here. */
    public function stopped(): string
    {
        return match ($this) {
            self::Headings => 'Its columns are not all known',
            self::Judged => 'It was not taken over; nothing was written',
            default => 'It stopped',
        };
    }

    /** Those of an import that ended. */
    public const ENDED = [self::Taken, self::Cancelled, self::Failed];

    public function runs(): bool
    {
        return $this === self::Reading || $this === self::Taking;
    }

    /** May an import that is in this state come into that one? */
    public function leadsTo(self $next): bool
    {
        return in_array($this, match ($next) {
            self::Reading => [self::Headings],
            self::Headings => [self::Reading],
            self::Judged => [self::Reading, self::Taking],
            self::Taking => [self::Judged],
            self::Taken => [self::Taking, self::Judged],
            self::Failed => [self::Reading, self::Headings],
            self::Cancelled => [self::Reading, self::Headings, self::Judged, self::Failed],
        }, true);
    }
}
