<?php

declare(strict_types=1);

namespace App\Models;

/** When a server is shipped to without anybody asking for it. */
enum ShipsWhen: string
{
    case Hand = 'hand';
    case Once = 'once';
    case Windows = 'windows';

    public function words(): string
    {
        return match ($this) {
            self::Hand => 'by hand',
            self::Once => 'at once',
            self::Windows => 'in its windows',
        };
    }

    /** For a form. */
    public function explained(): string
    {
        return match ($this) {
            self::Hand => 'by hand: nothing is shipped until somebody says so',
            self::Once => 'at once: within a minute or two of a change',
            self::Windows => 'in its windows: what waits is shipped when one opens',
        };
    }
}
