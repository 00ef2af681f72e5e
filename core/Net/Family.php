<?php

declare(strict_types=1);

namespace HarborPost\Core\Net;

enum Family: int
{
    case V4 = 4;
    case V6 = 6;

    /** Bits in an address of this family. */
    public function bits(): int
    {
        return $this === self::V4 ? 32 : 128;
    }

    /**
     * Bytes in an address of this family.
     *
     * @return 4|16
     */
    public function bytes(): int
    {
        return $this === self::V4 ? 4 : 16;
    }

    public static function ofBytes(string $bytes): self
    {
        return match (strlen($bytes)) {
            4 => self::V4,
            16 => self::V6,
            default => throw new \LengthException(sprintf('an address has 4 or 16 bytes, not %d', strlen($bytes))),
        };
    }
}
