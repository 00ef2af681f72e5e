<?php

declare(strict_types=1);

namespace App\Models;

/** What a rule of the team does when somebody edits what it judges. */
enum AtEdit: string
{
    case Off = 'off';
    case Warn = 'warn';
    case Block = 'block';

    public function words(): string
    {
        return match ($this) {
            self::Off => 'nothing: it runs at night',
            self::Warn => 'warn, and ask why',
            self::Block => 'block',
        };
    }

    /** @return array<string, string> */
    public static function choices(): array
    {
        return array_combine(array_column(self::cases(), 'value'), array_map(static fn (self $a): string => $a->words(), self::cases()));
    }
}
