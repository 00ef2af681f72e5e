<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\Malformed;

/** The fields of a public key, the same in DNSKEY (RFC 4034 §2.1) and CDNSKEY (RFC 7344 §3.2). */
trait KeyData
{
    use LaidOut;

    /** @return list<Part> */
    public static function parts(): array
    {
        return [
            Part::uint16('flags', '257'), Part::uint8('protocol, always 3', '3'),
            Part::uint8('algorithm', '13', DnssecAlgorithms::NAMES), Part::base64('public key', 'base 64'),
        ];
    }

    private function check(): void
    {
        if ($this->values[1] !== 3) {
            throw Malformed::because('the protocol of a key is 3', 'RFC 4034 §2.1.2')->inField(1);
        }
    }
}
