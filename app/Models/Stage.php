<?php

declare(strict_types=1);

namespace App\Models;

/** How far a prefix or a scope is on its way: what is planned is not there yet, what is withheld is kept from use. */
enum Stage: string
{
    case Planned = 'planned';
    case Live = 'live';
    case Retiring = 'retiring';
    case Withheld = 'withheld';

    /** Should nothing new be put there? */
    public function isClosed(): bool
    {
        return $this === self::Retiring || $this === self::Withheld;
    }

    /** @return list<string> */
    public static function values(): array
    {
        return array_column(self::cases(), 'value');
    }

    /** @return array<string, string> value → word */
    public static function choices(): array
    {
        return array_combine(self::values(), self::values());
    }

    /** @return array<string, string> those that a scope may have, the usual one first */
    public static function ofScopes(): array
    {
        return [self::Live->value => self::Live->value, self::Planned->value => self::Planned->value];
    }
}
