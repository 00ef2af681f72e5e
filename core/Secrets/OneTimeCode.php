<?php

declare(strict_types=1);

namespace HarborPost\Core\Secrets;

use HarborPost\Core\Bytes\Base32;

/** Codes of six digits from a shared secret and the time (RFC 6238 with SHA-1 and 30 seconds, upon RFC 4226). */
final class OneTimeCode
{
    public const STEP = 30;

    /** Steps that a clock may be off, to either side (RFC 6238 §5.2). */
    private const DRIFT = 1;

    /** @param  string  $secret  raw bytes */
    public static function at(string $secret, int $counter, int $digits = 6): string
    {
        $mac = hash_hmac('sha1', pack('J', $counter), $secret, true);
        $offset = ord($mac[19]) & 0x0F;
        $number = (ord($mac[$offset]) & 0x7F) << 24 | ord($mac[$offset + 1]) << 16 | ord($mac[$offset + 2]) << 8 | ord($mac[$offset + 3]);

        return str_pad((string) ($number % 10 ** $digits), $digits, '0', STR_PAD_LEFT);
    }

    /**
     * @param  int  $now  seconds since 1970
     * @param  int  $after  the last counter that was used: a code opens once
     * @return ?int the counter that the code belongs to; null when it is none that may be used now
     */
    public static function counterOf(string $secret, string $code, int $now, int $after): ?int
    {
        $code = (string) preg_replace('/\s+/', '', $code);
        $found = null;
        for ($counter = intdiv($now, self::STEP) - self::DRIFT; $counter <= intdiv($now, self::STEP) + self::DRIFT; $counter++) {
            // All are compared, so that the time tells nothing.
            $found = hash_equals(self::at($secret, $counter), $code) && $counter > $after ? $counter : $found;
        }

        return $found;
    }

    /** A secret as applications that make codes take it (RFC 4648 §6). */
    public static function base32(string $bytes): string
    {
        return Base32::Plain->encode($bytes);
    }

    /** @return ?string raw bytes; null when it is no such text */
    public static function fromBase32(string $text): ?string
    {
        return Base32::Plain->decode((string) preg_replace('/[\s=-]+/', '', $text)) ?: null;
    }
}
