<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\RecordType;

/** Where a service is and how it is spoken to (RFC 9460 §2). */
final readonly class Svcb implements BuiltRdata, PointsAt
{
    use ServiceBinding;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::SVCB);
    }
}
