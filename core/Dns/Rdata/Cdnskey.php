<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\RecordType;

/** The key that a child wishes its parent to make a DS of (RFC 7344 §3.2). */
final readonly class Cdnskey implements BuiltRdata
{
    use KeyData;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::CDNSKEY);
    }
}
