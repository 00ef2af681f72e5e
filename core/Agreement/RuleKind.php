<?php

declare(strict_types=1);

namespace HarborPost\Core\Agreement;

/** What makes a change need the agreement of others. */
enum RuleKind: string
{
    case Always = 'always';
    case Rows = 'rows';
    case Removes = 'removes';
    case Touches = 'touches';
    case Site = 'site';
    case Warning = 'warning';

    public function label(): string
    {
        return match ($this) {
            self::Always => 'changes anything',
            self::Rows => 'touches more rows than',
            self::Removes => 'removes a',
            self::Touches => 'touches a',
            self::Site => 'touches anything at or below',
            self::Warning => 'carries a warning',
        };
    }
}
