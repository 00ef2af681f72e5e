<?php

declare(strict_types=1);

namespace HarborPost\Core\Watch;

/** How often something runs. */
enum Every: string
{
    case Day = 'day';
    case Week = 'week';
    case Month = 'month';
}
