<?php

declare(strict_types=1);

namespace App\Queries\Delegation;

/** What the zone above says of a zone. */
enum State
{
    /** none of ours is above it */
    case Top;

    /** it names the servers that the zone names itself */
    case Good;

    /** it says nothing: nobody gets there from above */
    case Missing;

    /** it names others than the zone does itself */
    case Differs;
}
