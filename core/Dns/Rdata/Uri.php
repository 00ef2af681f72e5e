<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\RecordType;

/** Where a service is, as a URI (RFC 7553 §4). */
final readonly class Uri implements BuiltRdata
{
    use LaidOut;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::URI);
    }

    public static function parts(): array
    {
        return [Part::uint16('priority', '10'), Part::uint16('weight', '1'), Part::quoted('target', 'https://www.example.net/')];
    }
}
