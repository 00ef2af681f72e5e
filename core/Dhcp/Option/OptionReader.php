<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Dhcp\BadOption;

/**
 * Reads a run of options byte by byte as a client does (RFC 2132 §2), and says what it makes of each; a fault does not end the reading as
 * long as a client would go on.
 */
final class OptionReader
{
    private const PAD = 0;

    private const END = 255;

    /**
     * @return list<array{offset: int, code: int, name: string, bytes: string, meaning: string, fault: ?string}> offsets count from the
     *     start of what was given; several pieces of one option are joined at the place of the first (RFC 3396)
     */
    public static function read(string $bytes): array
    {
        $found = [];
        $at = 0;
        for ($length = strlen($bytes); $at < $length;) {
            $code = ord($bytes[$at]);
            if ($code === self::PAD) {
                $at++;

                continue;
            }
            if ($code === self::END) {
                $rest = trim(substr($bytes, $at + 1), "\0");
                if ($rest !== '') {
                    $found['end'] = self::line($at, self::END, substr($bytes, $at + 1), 'after the end option nothing is read');
                }

                return array_values($found);
            }
            if ($at + 1 >= $length) {
                $found["cut $at"] = self::line($at, $code, '', 'the length byte is missing');

                break;
            }
            $size = ord($bytes[$at + 1]);
            $payload = substr($bytes, $at + 2, $size);
            if (strlen($payload) < $size) {
                $found["cut $at"] = self::line($at, $code, $payload, sprintf('says %d bytes, %d are there', $size, strlen($payload)));

                return array_values($found);
            }
            $before = $found[$code] ?? null;
            $found[$code] = self::line($before['offset'] ?? $at, $code, ($before['bytes'] ?? '').$payload, null);
            $at += 2 + $size;
        }
        $found['open'] = self::line($at, self::END, '', 'the end option is missing');

        return array_values($found);
    }

    /**
     * The payload of one option.
     *
     * @return array{offset: int, code: int, name: string, bytes: string, meaning: string, fault: ?string}
     *
     * @throws BadOption for a code that is none
     */
    public static function one(int $code, string $payload): array
    {
        return ['name' => OptionTable::definition($code)->name] + self::line(0, $code, $payload, null);
    }

    /** @return array{offset: int, code: int, name: string, bytes: string, meaning: string, fault: ?string} */
    private static function line(int $offset, int $code, string $payload, ?string $fault): array
    {
        $meaning = '';
        if ($fault === null) {
            try {
                $meaning = implode(', ', OptionTable::decode($code, $payload));
            } catch (BadOption $e) {
                $fault = $e->offset === null
                    ? $e->getMessage()
                    : preg_replace('/\Aoption \d+, byte \d+: /', "byte $e->offset: ", $e->getMessage());
            }
        }

        return [
            'offset' => $offset, 'code' => $code, 'name' => $code === self::END ? 'end' : OptionTable::definition($code)->name,
            'bytes' => $payload, 'meaning' => $meaning, 'fault' => $fault,
        ];
    }
}
