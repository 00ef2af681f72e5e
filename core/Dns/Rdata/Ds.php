<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\RecordType;

/** The digest of a key of a child zone, at the parent (RFC 4034 §5.1). */
final readonly class Ds implements BuiltRdata
{
    use LaidOut;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::DS);
    }

    public function keyTag(): int
    {
        return $this->number(0);
    }

    public function algorithm(): int
    {
        return $this->number(1);
    }

    public function digestType(): int
    {
        return $this->number(2);
    }

    public function digest(): string
    {
        return is_string($this->values[3]) ? $this->values[3] : '';
    }

    public static function parts(): array
    {
        return [
            Part::uint16('key tag', '60485'), Part::uint8('algorithm', '13', DnssecAlgorithms::NAMES), Part::uint8('digest type', '2'),
            Part::hex('digest', 'sha-256 as digits', 1),
        ];
    }

    private function check(): void
    {
        Digests::check($this->values[2], $this->values[3], [1 => 20, 2 => 32, 4 => 48], 'RFC 4509 §2.1', 3);
    }
}
