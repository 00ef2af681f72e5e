<?php

declare(strict_types=1);

namespace HarborPost\Core\Net;

/**
 * Arithmetic on addresses as byte strings of 4 or 16 bytes, most significant byte first.
 *
 * Kept free of objects because the planning walks run it millions of times. Order is always strcmp(), never `<`,
 * which PHP would take as a comparison of numbers for digits.
 *
 * @internal to Net and Planning
 */
final class Bits
{
    /** Ones in the first $length bits. */
    public static function mask(int $bytes, int $length): string
    {
        /** @var array<int, array<int, string>> $known */
        static $known = [];

        return $known[$bytes][$length] ??= self::buildMask($bytes, $length);
    }

    /** Ones in the bits after the first $length. */
    public static function hostMask(int $bytes, int $length): string
    {
        /** @var array<int, array<int, string>> $known */
        static $known = [];

        return $known[$bytes][$length] ??= ~self::mask($bytes, $length);
    }

    /** The next address; null after the last one. */
    public static function next(string $bytes): ?string
    {
        for ($i = strlen($bytes) - 1; $i >= 0; $i--) {
            $value = ord($bytes[$i]);
            if ($value !== 255) {
                $bytes[$i] = chr($value + 1);

                return $bytes;
            }
            $bytes[$i] = "\0";
        }

        return null;
    }

    /** The address before; null before the first one. */
    public static function previous(string $bytes): ?string
    {
        for ($i = strlen($bytes) - 1; $i >= 0; $i--) {
            $value = ord($bytes[$i]);
            if ($value !== 0) {
                $bytes[$i] = chr($value - 1);

                return $bytes;
            }
            $bytes[$i] = "\xff";
        }

        return null;
    }

    /** How many bits at the end are zero; all of them for the zero address. */
    public static function trailingZeros(string $bytes): int
    {
        $count = 0;
        for ($i = strlen($bytes) - 1; $i >= 0; $i--) {
            $value = ord($bytes[$i]);
            if ($value === 0) {
                $count += 8;

                continue;
            }
            while (($value & 1) === 0) {
                $value >>= 1;
                $count++;
            }

            return $count;
        }

        return $count;
    }

    /** The bit at a position counted from the front, 0 or 1. */
    public static function bit(string $bytes, int $position): int
    {
        return ord($bytes[$position >> 3]) >> (7 - ($position & 7)) & 1;
    }

    /** The same address with the bit at that position turned over. */
    public static function flip(string $bytes, int $position): string
    {
        $bytes[$position >> 3] = chr(ord($bytes[$position >> 3]) ^ (0x80 >> ($position & 7)));

        return $bytes;
    }

    /**
     * The fewest aligned blocks that cover a stretch, in address order.
     *
     * @return list<array{string, int}> first address and prefix length
     */
    public static function blocks(string $first, string $last): array
    {
        $size = strlen($first);
        $bits = $size * 8;
        $blocks = [];
        while (true) {
            $length = $bits - self::trailingZeros($first);
            while (strcmp($end = $first | self::hostMask($size, $length), $last) > 0) {
                $length++;
            }
            $blocks[] = [$first, $length];
            $following = $end === $last ? null : self::next($end);
            if ($following === null) {
                return $blocks;
            }
            $first = $following;
        }
    }

    private static function buildMask(int $bytes, int $length): string
    {
        $whole = intdiv($length, 8);
        $mask = str_repeat("\xff", $whole);
        if ($length % 8 !== 0) {
            $mask .= chr(0xFF << (8 - $length % 8) & 0xFF);
        }

        return str_pad($mask, $bytes, "\0");
    }
}
