<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

/** The fields that pin a certificate, the same in TLSA (RFC 6698 §2.1) and SMIMEA (RFC 8162 §2). */
trait CertificateData
{
    use LaidOut;

    /** @return list<Part> */
    public static function parts(): array
    {
        return [
            Part::uint8('usage', '3'), Part::uint8('selector', '1'), Part::uint8('matching', '1'),
            Part::hex('certificate data', 'sha-256 as digits', 1),
        ];
    }

    private function check(): void
    {
        Digests::check($this->values[2], $this->values[3], [1 => 32, 2 => 64], 'RFC 6698 §2.1.3', 3);
    }
}
