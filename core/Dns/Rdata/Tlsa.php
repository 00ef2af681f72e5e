<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\RecordType;

/** Which certificate a service shows (RFC 6698 §2.1). */
final readonly class Tlsa implements BuiltRdata
{
    use CertificateData;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::TLSA);
    }
}
