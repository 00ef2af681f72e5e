<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\RecordType;

/** A 64-bit interface address (RFC 7043 §4). */
final readonly class Eui64 implements BuiltRdata
{
    use LaidOut;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::EUI64);
    }

    public static function parts(): array
    {
        return [Part::dashed('EUI-64', '00-00-5e-ef-10-00-00-2a', 8)];
    }
}
