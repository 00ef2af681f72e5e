<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\RecordType;

/** Which certificate a mailbox signs with (RFC 8162 §2). */
final readonly class Smimea implements BuiltRdata
{
    use CertificateData;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::SMIMEA);
    }
}
