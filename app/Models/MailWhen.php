<?php

declare(strict_types=1);

namespace App\Models;

/** When somebody gets mail of what calls for them; reports come when they are due. */
enum MailWhen: string
{
    case Never = 'never';
    case Daily = 'daily';
    case Now = 'now';

    public function words(): string
    {
        return match ($this) {
            self::Never => 'no mail at all',
            self::Daily => 'reports when due, the rest once a day',
            self::Now => 'reports when due, the rest at once',
        };
    }
}
