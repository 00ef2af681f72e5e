<?php

declare(strict_types=1);

namespace App\Acts\Engine;

/** What a check of an act came to, the gravest first. */
enum NoteVerdict: string
{
    case Blocked = 'blocked';
    case Warned = 'warned';
    case Passed = 'passed';

    public function mark(): string
    {
        return match ($this) {
            self::Blocked => 'stop',
            self::Warned => 'warn',
            self::Passed => 'ok',
        };
    }

    public function rank(): int
    {
        return (int) array_search($this, self::cases(), true);
    }
}
