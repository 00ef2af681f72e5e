<?php

declare(strict_types=1);

namespace HarborPost\Core\Bytes;

/** Hexadecimal text and bytes, both ways. */
final class Hex
{
    /** Lower case, two digits a byte, separated by blanks: `0a 28 0c 01`. */
    public static function spaced(string $bytes): string
    {
        return $bytes === '' ? '' : implode(' ', str_split(bin2hex($bytes), 2));
    }

    /**
     * Accepts digits in any case with blanks, colons, hyphens or a leading 0x.
     *
     * @throws MalformedBytes with the offset of the first character that is no hexadecimal digit
     */
    public static function parse(string $text): string
    {
        $digits = '';
        $start = preg_match('/\A\s*0x/i', $text, $m) === 1 ? strlen($m[0]) : 0;
        for ($i = $start, $n = strlen($text); $i < $n; $i++) {
            if (ctype_xdigit($text[$i])) {
                $digits .= $text[$i];
            } elseif (! in_array($text[$i], [' ', ':', '-', "\t", "\n", "\r"], true)) {
                throw MalformedBytes::at($i, "a hexadecimal digit, not '{$text[$i]}'");
            }
        }
        if (strlen($digits) % 2 !== 0) {
            throw MalformedBytes::at(strlen($text), 'an even number of hexadecimal digits');
        }

        return (string) hex2bin($digits);
    }
}
