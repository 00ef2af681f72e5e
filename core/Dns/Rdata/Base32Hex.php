<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

/** Base 32 with the extended hexadecimal alphabet, without padding (RFC 4648 §7, RFC 5155 §3.3): text sorts as its bytes do. */
final class Base32Hex
{
    private const ALPHABET = '0123456789abcdefghijklmnopqrstuv';

    public static function encode(string $bytes): string
    {
        $text = '';
        $buffer = $bits = 0;
        for ($i = 0, $n = strlen($bytes); $i < $n; $i++) {
            $buffer = $buffer << 8 | ord($bytes[$i]);
            for ($bits += 8; $bits >= 5; $bits -= 5) {
                $text .= self::ALPHABET[$buffer >> $bits - 5 & 31];
            }
            $buffer &= 0xFF;
        }

        return $bits === 0 ? $text : $text.self::ALPHABET[$buffer << 5 - $bits & 31];
    }

    /** @return ?string null when it is no such text, or has bits left over that are not zero */
    public static function decode(string $text): ?string
    {
        $bytes = '';
        $buffer = $bits = 0;
        for ($i = 0, $n = strlen($text); $i < $n; $i++) {
            $value = strpos(self::ALPHABET, strtolower($text[$i]));
            if ($value === false) {
                return null;
            }
            $buffer = ($buffer << 5 | $value) & 0xFFF;
            $bits += 5;
            if ($bits >= 8) {
                $bits -= 8;
                $bytes .= chr($buffer >> $bits & 0xFF);
            }
        }

        return $bits < 5 && ($buffer & (1 << $bits) - 1) === 0 ? $bytes : null;
    }
}
