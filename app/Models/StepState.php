<?php

declare(strict_types=1);

namespace App\Models;

/** What has become of one step of a shipment, or of a line that was brought to a system outside. */
enum StepState: string
{
    case Done = 'done';
    /** nothing was to be done */
    case Same = 'same';
    case Failed = 'failed';
    /** not tried: what it needed was not there any more */
    case Left = 'left';

    public function mark(): string
    {
        return $this->isGood() ? 'ok' : 'stop';
    }

    public function isGood(): bool
    {
        return $this === self::Done || $this === self::Same;
    }
}
