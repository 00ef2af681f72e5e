<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;

/** The parameters of SVCB and HTTPS, in text and on the wire (RFC 9460 §7 and §14.3.2; dohpath RFC 9461). */
final class ServiceParams
{
    public const MANDATORY = 0;

    public const ALPN = 1;

    public const NO_DEFAULT_ALPN = 2;

    public const IPV4HINT = 4;

    public const IPV6HINT = 6;

    private const NAMES = [
        0 => 'mandatory', 1 => 'alpn', 2 => 'no-default-alpn', 3 => 'port', 4 => 'ipv4hint', 5 => 'ech', 6 => 'ipv6hint',
        7 => 'dohpath', 8 => 'ohttp',
    ];

    public static function key(string $name): ?int
    {
        $known = array_search(strtolower($name), self::NAMES, true);
        if ($known !== false) {
            return $known;
        }

        return preg_match('/\Akey(0|[1-9]\d{0,4})\z/i', $name, $m) === 1 && (int) $m[1] < 65535 ? (int) $m[1] : null;
    }

    public static function name(int $key): string
    {
        return self::NAMES[$key] ?? "key$key";
    }

    /** @throws Malformed when the value is not what the key takes */
    public static function wire(int $key, ?string $value): string
    {
        $text = $value ?? '';
        if (in_array($key, [self::NO_DEFAULT_ALPN, 8], true)) {
            return $text === '' ? '' : throw Malformed::because(self::name($key).' takes no value', 'RFC 9460 §7.1.1');
        }
        if ($text === '' && isset(self::NAMES[$key])) {
            throw Malformed::because(self::name($key).' needs a value', 'RFC 9460 §2.1');
        }

        return match ($key) {
            self::MANDATORY => self::mandatory($text),
            self::ALPN => self::protocols($text),
            3 => preg_match('/\A\d{1,5}\z/', $text) === 1
                && (int) $text <= 65535
                    ? pack('n', (int) $text)
                    : throw Malformed::because("port is a number from 0 to 65535, not \"$text\"", 'RFC 9460 §7.2'),
            self::IPV4HINT => self::addresses($text, Family::V4),
            self::IPV6HINT => self::addresses($text, Family::V6),
            5 => ($bytes = base64_decode($text, true)) !== false
                && $bytes !== '' ? $bytes : throw Malformed::because('ech is base 64 text', 'RFC 9460 §7.3'),
            default => Name::unescape($text),
        };
    }

    /** Is it a value that the key can have on the wire? */
    public static function fits(int $key, string $value): bool
    {
        return match ($key) {
            self::MANDATORY => $value !== '' && strlen($value) % 2 === 0 && self::rises($value),
            self::ALPN => self::isList($value),
            self::NO_DEFAULT_ALPN, 8 => $value === '',
            3 => strlen($value) === 2,
            self::IPV4HINT => $value !== '' && strlen($value) % 4 === 0,
            self::IPV6HINT => $value !== '' && strlen($value) % 16 === 0,
            5, 7 => $value !== '',
            default => true,
        };
    }

    /** Keys of two bytes, rising, none of them mandatory itself. */
    private static function rises(string $value): bool
    {
        $last = "\0\0";
        foreach (str_split($value, 2) as $key) {
            if (strcmp($key, $last) <= 0) {
                return false;
            }
            $last = $key;
        }

        return true;
    }

    private static function isList(string $value): bool
    {
        for ($at = 0; $at < strlen($value); $at += ord($value[$at]) + 1) {
            if ($value[$at] === "\0") {
                return false;
            }
        }

        return $value !== '' && $at === strlen($value);
    }

    public static function text(int $key, string $value): string
    {
        $name = self::name($key);
        if ($value === '') {
            return $name;
        }

        return match ($key) {
            self::MANDATORY => "$name="
                .implode(
                    ',',
                    array_map(
                        static fn (string $p): string => self::name(strlen($p) === 2 ? ord($p[0]) << 8 | ord($p[1]) : 0),
                        str_split($value, 2),
                    ),
                ),
            self::ALPN => "$name="
                .Fields::quote(
                    implode(',', array_map(static fn (string $p): string => strtr($p, ['\\' => '\\\\', ',' => '\\,']), self::list($value))),
                ),
            3 => "$name=".(strlen($value) === 2 ? ord($value[0]) << 8 | ord($value[1]) : 0),
            self::IPV4HINT,
            self::IPV6HINT => strlen($value) % ($key === self::IPV4HINT ? 4 : 16) === 0
                ? "$name="
                    .implode(
                        ',',
                        array_map(
                            static fn (string $b): string => (string) Address::fromBytes($b),
                            str_split($value, $key === self::IPV4HINT ? 4 : 16),
                        ),
                    )
                : "key$key=".Fields::quote($value),
            5 => "$name=".base64_encode($value),
            default => "$name=".Fields::quote($value),
        };
    }

    private static function mandatory(string $text): string
    {
        $keys = [];
        foreach (explode(',', $text) as $name) {
            $key = self::key(trim($name));
            if ($key === null || $key === self::MANDATORY || isset($keys[$key])) {
                throw Malformed::because("mandatory lists other keys, each once, not \"$name\"", 'RFC 9460 §8');
            }
            $keys[$key] = pack('n', $key);
        }
        ksort($keys);

        return implode('', $keys);
    }

    /** A list with commas, `\,` for a comma inside and `\\` for a backslash (RFC 9460 appendix A.1). */
    private static function protocols(string $text): string
    {
        $wire = '';
        foreach (preg_split('/(?<!\\\\)(?:\\\\\\\\)*\K,/', Name::unescape($text)) ?: [] as $item) {
            $bytes = strtr($item, ['\\\\' => '\\', '\\,' => ',']);
            if ($bytes === '' || strlen($bytes) > 255) {
                throw Malformed::because('a protocol name has 1 to 255 bytes', 'RFC 9460 §7.1.1');
            }
            $wire .= chr(strlen($bytes)).$bytes;
        }

        return $wire;
    }

    /** @return list<string> */
    private static function list(string $value): array
    {
        $items = [];
        for ($at = 0; $at < strlen($value); $at += ord($value[$at]) + 1) {
            $items[] = substr($value, $at + 1, ord($value[$at]));
        }

        return $items;
    }

    private static function addresses(string $text, Family $family): string
    {
        return implode('', array_map(static function (string $one) use ($family): string {
            $address = Address::tryParse(trim($one));

            return $address !== null
                && $address->family === $family
                    ? $address->bytes
                    : throw Malformed::because("a hint is an IPv{$family->value} address, not \"$one\"", 'RFC 9460 §7.3');
        }, explode(',', $text)));
    }
}
