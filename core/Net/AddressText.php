<?php

declare(strict_types=1);

namespace HarborPost\Core\Net;

/**
 * Text and bytes of addresses. Reading is strict, because leading zeros, short forms and scope suffixes mean
 * different things to different programs; writing follows RFC 5952. The platform's own reader is as strict and is tried first;
 * ours then says where the fault is.
 *
 * @internal to Net
 */
final class AddressText
{
    /** @throws NotUnderstood */
    public static function bytes(string $text): string
    {
        if ($text === '') {
            throw NotUnderstood::at($text, 0, 'an address is missing');
        }

        $quick = strspn($text, '0123456789abcdefABCDEF:.') === strlen($text) ? @inet_pton($text) : false;
        if ($quick !== false) {
            return $quick;
        }

        return str_contains($text, ':') ? self::v6($text) : self::v4($text, 0, $text);
    }

    public static function of(string $bytes): string
    {
        return strlen($bytes) === 4 ? (string) inet_ntop($bytes) : self::writeV6($bytes);
    }

    private static function v4(string $text, int $shift, string $whole): string
    {
        $bytes = '';
        $parts = explode('.', $text);
        $offset = $shift;
        foreach ($parts as $i => $part) {
            if ($i > 3) {
                throw NotUnderstood::at($whole, $offset - 1, 'an IPv4 address has four octets, this is a fifth');
            }
            $bytes .= chr(self::octet($part, $offset, $whole));
            $offset += strlen($part) + 1;
        }
        if (count($parts) < 4) {
            throw NotUnderstood::at($whole, $offset - 1, sprintf('an IPv4 address has four octets, here are %d', count($parts)));
        }

        return $bytes;
    }

    private static function octet(string $part, int $offset, string $whole): int
    {
        $digits = strspn($part, '0123456789');
        if ($digits < strlen($part)) {
            throw NotUnderstood::at($whole, $offset + $digits, "a digit or a dot, not '{$part[$digits]}'");
        }
        if ($part === '') {
            throw NotUnderstood::at($whole, $offset, 'an octet from 0 to 255 is missing');
        }
        if (strlen($part) > 1 && $part[0] === '0') {
            throw NotUnderstood::at($whole, $offset, 'an octet without leading zeros (some programs read them as octal)');
        }
        if (strlen($part) > 3 || (int) $part > 255) {
            throw NotUnderstood::at($whole, $offset, 'an octet from 0 to 255');
        }

        return (int) $part;
    }

    private static function v6(string $text): string
    {
        $bad = strspn($text, '0123456789abcdefABCDEF:.');
        if ($bad < strlen($text)) {
            throw NotUnderstood::at($text, $bad, "a hexadecimal digit or a colon, not '{$text[$bad]}'");
        }
        $gap = strpos($text, '::');
        if ($gap === false) {
            $bytes = self::groups($text, 0, $text, 8);
            if (strlen($bytes) < 16) {
                throw NotUnderstood::at(
                    $text,
                    strlen($text),
                    sprintf('eight groups of hexadecimal digits, here are %d', strlen($bytes) / 2),
                );
            }

            return $bytes;
        }
        $second = strpos($text, '::', $gap + 1);
        if ($second !== false) {
            throw NotUnderstood::at($text, $second, 'only one "::" in an address');
        }
        $head = $gap === 0 ? '' : self::groups(substr($text, 0, $gap), 0, $text, 7);
        $tail = $gap + 2 === strlen($text) ? '' : self::groups(substr($text, $gap + 2), $gap + 2, $text, 7 - intdiv(strlen($head), 2));

        return $head.str_repeat("\0", 16 - strlen($head) - strlen($tail)).$tail;
    }

    private static function groups(string $text, int $shift, string $whole, int $most): string
    {
        $bytes = '';
        $offset = $shift;
        $parts = explode(':', $text);
        foreach ($parts as $i => $part) {
            if (str_contains($part, '.')) {
                if ($i !== count($parts) - 1 || $offset + strlen($part) !== strlen($whole)) {
                    throw NotUnderstood::at($whole, $offset, 'dotted decimal only at the end of an IPv6 address');
                }
                $bytes .= self::v4($part, $offset, $whole);
            } elseif ($part === '' || strlen($part) > 4) {
                throw NotUnderstood::at($whole, $offset + ($part === '' ? 0 : 4), 'a group of one to four hexadecimal digits');
            } else {
                $bytes .= pack('n', (int) hexdec($part));
            }
            if (strlen($bytes) > $most * 2) {
                throw NotUnderstood::at($whole, $offset, 'no more than eight groups in an address');
            }
            $offset += strlen($part) + 1;
        }

        return $bytes;
    }

    private static function writeV6(string $bytes): string
    {
        if (str_starts_with($bytes, "\0\0\0\0\0\0\0\0\0\0\xff\xff")) {
            return '::ffff:'.self::of(substr($bytes, 12));
        }
        $groups = array_map(static fn (string $pair): string => ltrim(bin2hex($pair), '0') ?: '0', str_split($bytes, 2));
        [$from, $count] = self::longestZeros($groups);
        if ($count < 2) {
            return implode(':', $groups);
        }

        return implode(':', array_slice($groups, 0, $from)).'::'.implode(':', array_slice($groups, $from + $count));
    }

    /**
     * @param  list<string>  $groups
     * @return array{int, int} where the longest stretch of zero groups starts (the first of equals) and how long it is
     */
    private static function longestZeros(array $groups): array
    {
        $best = [0, 0];
        $start = 0;
        foreach ([...$groups, 'end'] as $i => $group) {
            if ($group === '0') {
                continue;
            }
            if ($i - $start > $best[1]) {
                $best = [$start, $i - $start];
            }
            $start = $i + 1;
        }

        return $best;
    }
}
