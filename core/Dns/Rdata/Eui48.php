<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\RecordType;

/** A MAC address (RFC 7043 §3). */
final readonly class Eui48 implements BuiltRdata
{
    use LaidOut;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::EUI48);
    }

    public static function parts(): array
    {
        return [Part::dashed('EUI-48', '00-00-5e-00-53-2a', 6)];
    }
}
