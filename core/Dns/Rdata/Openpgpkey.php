<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\RecordType;

/** A public key for mail (RFC 7929 §2.1). */
final readonly class Openpgpkey implements BuiltRdata
{
    use LaidOut;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::OPENPGPKEY);
    }

    public static function parts(): array
    {
        return [Part::base64('public key', 'base 64')];
    }
}
