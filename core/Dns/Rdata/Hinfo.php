<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\RecordType;

/** What a host is: processor and system, as two strings (RFC 1035 §3.3.2; RFC 8482 answers ANY with it). */
final readonly class Hinfo implements BuiltRdata
{
    use LaidOut;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::HINFO);
    }

    public static function parts(): array
    {
        return [Part::string('processor', 'RFC8482'), Part::string('system', '')];
    }
}
