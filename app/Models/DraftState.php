<?php

declare(strict_types=1);

namespace App\Models;

/** Where a draft stands. */
enum DraftState: string
{
    case Open = 'open';

    /** Read by others; not changed until it is taken back. */
    case Submitted = 'submitted';

    case Committed = 'committed';

    case Dropped = 'dropped';
}
