<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\RecordType;

/** Which certificate a service shows (RFC 6698 §2.1). */
final readonly class Tlsa implements BuiltRdata
{
    use LaidOut;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::TLSA);
    }

    public static function parts(): array
    {
        return [Part::uint8('usage', '3'), Part::uint8('selector', '1'), Part::uint8('matching', '1'), Part::hex('certificate data', 'sha-256 as digits', 1)];
    }

    private function check(): void
    {
        Digests::check($this->values[2], $this->values[3], [1 => 32, 2 => 64], 'RFC 6698 §2.1.3', 3);
    }
}
