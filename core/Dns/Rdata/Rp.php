<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\RecordType;

/** Who is responsible: a mailbox as a name, and a name with a TXT that says more (RFC 1183 §2.2). */
final readonly class Rp implements BuiltRdata
{
    use LaidOut;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::RP);
    }

    public static function parts(): array
    {
        return [Part::name('mailbox, the first dot for @', 'admin'), Part::name('name of a TXT, or a dot', '.')];
    }
}
