<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\RecordType;

/** A certificate or a list of revoked ones (RFC 4398 §2). */
final readonly class Cert implements BuiltRdata
{
    use LaidOut;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::CERT);
    }

    public static function parts(): array
    {
        return [
            Part::uint16(
                'certificate type',
                'PKIX',
                [
                    1 => 'PKIX', 2 => 'SPKI', 3 => 'PGP', 4 => 'IPKIX', 5 => 'ISPKI', 6 => 'IPGP', 7 => 'ACPKIX', 8 => 'IACPKIX',
                    253 => 'URI', 254 => 'OID',
                ],
            ),
            Part::uint16('key tag', '0'),
            Part::uint8('algorithm', '0', DnssecAlgorithms::NAMES),
            Part::base64('certificate', 'base 64'),
        ];
    }
}
