<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\Name;

/** Data that names another owner, so that removing that owner leaves it dangling. */
interface PointsAt
{
    public function target(): Name;
}
