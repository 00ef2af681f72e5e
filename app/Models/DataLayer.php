<?php

declare(strict_types=1);

namespace App\Models;

/** Where data for templates is noted, from the outermost in. */
enum DataLayer: string
{
    case Organisation = 'organisation';
    case Site = 'site';
    case Role = 'role';
    case Tag = 'tag';
}
