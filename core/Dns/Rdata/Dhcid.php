<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\RecordType;

/** Which DHCP client a name was registered for, as a digest (RFC 4701 §3.1). */
final readonly class Dhcid implements BuiltRdata
{
    use LaidOut;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::DHCID);
    }

    public static function parts(): array
    {
        return [Part::base64('identity', 'base 64')];
    }
}
