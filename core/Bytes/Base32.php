<?php

declare(strict_types=1);

namespace HarborPost\Core\Bytes;

/** Base 32 without padding (RFC 4648 §6 and §7); read in either case. */
enum Base32: string
{
    /** As people type it, without the digits that look like letters. */
    case Plain = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567';

    /** The extended hexadecimal alphabet in lower case (RFC 5155 §3.3): text sorts as its bytes do. */
    case Hex = '0123456789abcdefghijklmnopqrstuv';

    public function encode(string $bytes): string
    {
        $text = '';
        $buffer = $bits = 0;
        for ($i = 0, $n = strlen($bytes); $i < $n; $i++) {
            $buffer = ($buffer << 8 | ord($bytes[$i])) & 0xFFFF;
            for ($bits += 8; $bits >= 5; $bits -= 5) {
                $text .= $this->value[$buffer >> $bits - 5 & 31];
            }
        }

        return $bits === 0 ? $text : $text.$this->value[$buffer << 5 - $bits & 31];
    }

    /** @return ?string null when it is no such text, or has bits left over that are not zero */
    public function decode(string $text): ?string
    {
        $bytes = '';
        $buffer = $bits = 0;
        for ($i = 0, $n = strlen($text); $i < $n; $i++) {
            $value = stripos($this->value, $text[$i]);
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
