<?php

declare(strict_types=1);

namespace App\Models;

/** What somebody else decided of a draft. */
enum DraftVerdict: string
{
    case Agreed = 'agreed';

    case Refused = 'refused';

    /** Committed without agreement, with the reason. */
    case Emergency = 'emergency';

    /** After a name. */
    public function words(): string
    {
        return $this === self::Emergency ? 'committed it in an emergency, without agreement' : $this->value;
    }
}
