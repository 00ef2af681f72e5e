<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\RecordType;

/** The fingerprint of a host key for SSH (RFC 4255 §3.1, types of RFC 6594 and 7479). */
final readonly class Sshfp implements BuiltRdata
{
    use LaidOut;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::SSHFP);
    }

    public static function parts(): array
    {
        return [Part::uint8('key algorithm', '4'), Part::uint8('digest', '2'), Part::hex('fingerprint', 'sha-256 as digits', 1)];
    }

    private function check(): void
    {
        Digests::check($this->values[1], $this->values[2], [1 => 20, 2 => 32], 'RFC 6594 §3', 2);
    }
}
