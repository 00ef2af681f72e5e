<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\RecordType;

/** Where a web origin is served and how (RFC 9460 §9). */
final readonly class Https implements BuiltRdata, PointsAt
{
    use ServiceBinding;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::HTTPS);
    }
}
