<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V4;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;

/** Options as they stand in a message: code, length, bytes, and an end; a long one in several parts (RFC 2132 §2, RFC 3396). */
final class OptionBytes
{
    /** What stands in front of the options (RFC 2131 §3). */
    public const COOKIE = "\x63\x82\x53\x63";

    /**
     * @param  array<int, string>  $options  read before, in another field
     * @return array<int, string> code → payload
     *
     * @throws MalformedBytes
     */
    public static function read(ByteReader $reader, array $options = []): array
    {
        while (! $reader->atEnd()) {
            $code = $reader->uint8();
            if ($code === 255) {
                return $options;
            }
            if ($code !== 0) {
                $options[$code] = ($options[$code] ?? '').$reader->take($reader->uint8());
            }
        }

        return $options;
    }

    /** @param  array<int, string>  $options  code → payload */
    public static function write(array $options): string
    {
        $bytes = '';
        foreach ($options as $code => $payload) {
            foreach ($payload === '' ? [''] : str_split($payload, 255) as $part) {
                $bytes .= chr($code).chr(strlen($part)).$part;
            }
        }

        return $bytes."\xff";
    }
}
