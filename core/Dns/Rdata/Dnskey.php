<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\RecordType;

/** A public key that signs the zone (RFC 4034 §2.1). */
final readonly class Dnskey implements BuiltRdata
{
    use KeyData;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::DNSKEY);
    }
}
