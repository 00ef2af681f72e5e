<?php

declare(strict_types=1);

namespace App\Links;

/** How something on a server stands against the plan. */
enum DifferenceState: string
{
    case Same = 'same';
    case Differs = 'differs';
    /** The server does not have it yet. */
    case New = 'new';
    /** The server has it, and the plan does not any more. */
    case Gone = 'gone';
    /** The server's serial is before ours: what it runs was not made here. */
    case Ahead = 'ahead';
    /** Nothing here brings it about: somebody else has to do something first. */
    case Waiting = 'waiting';

    public function needsShipping(): bool
    {
        return ! in_array($this, [self::Same, self::Waiting], true);
    }

    /** The mark of it in a list of what a shipment does. */
    public function mark(): string
    {
        return match ($this) {
            self::New => 'add',
            self::Gone => 'cut',
            self::Ahead => 'warn',
            default => 'turn',
        };
    }
}
