<?php

declare(strict_types=1);

namespace App\Models;

/** What a name server does for a zone (RFC 9499): the primary is where changes go, secondaries copy it. */
enum Part: string
{
    case Primary = 'primary';
    case Secondary = 'secondary';
}
