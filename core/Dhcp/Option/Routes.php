<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix;

/**
 * Classless static routes (RFC 3442): prefix length, as many octets of the destination as it needs, next hop.
 *
 * `10.32.0.0/12 10.40.12.1` → 0c 0a 20 0a 28 0c 01. The next hop 0.0.0.0 is the link itself.
 */
final readonly class Routes implements ValueShape
{
    public function hint(): string
    {
        return 'routes as "DESTINATION NEXT-HOP", for instance "0.0.0.0/0 192.0.2.1"';
    }

    public function encode(array $values): string
    {
        if ($values === []) {
            throw BadOption::value('', 'at least one route');
        }
        $payload = '';
        foreach ($values as $value) {
            [$prefix, $hop] = self::route($value);
            $payload .= chr($prefix->length).substr($prefix->first->bytes, 0, self::octets($prefix->length)).$hop;
        }

        return $payload;
    }

    public function decode(string $payload): array
    {
        $reader = new ByteReader($payload);
        $routes = [];
        try {
            while (! $reader->atEnd()) {
                $start = $reader->position();
                $length = $reader->uint8();
                if ($length > 32) {
                    throw BadOption::bytes($start, "a prefix length from 0 to 32, not $length");
                }
                $network = Address::fromBytes(str_pad($reader->take(self::octets($length)), 4, "\0"));
                $routes[] = Prefix::of($network, $length).' '.Address::fromBytes($reader->take(4));
            }
        } catch (MalformedBytes $e) {
            throw BadOption::bytes($e->offset, "a whole route: {$e->expected}");
        } catch (NotUnderstood $e) {
            throw BadOption::bytes($reader->position(), $e->getMessage());
        }

        return $routes !== [] ? $routes : throw BadOption::bytes(0, 'at least one route');
    }

    /** @return array{Prefix, string} destination and the bytes of the next hop */
    private static function route(string $value): array
    {
        $text = trim($value);
        $cut = strrpos($text, ' ');
        try {
            $prefix = Prefix::parse($cut === false ? $text : substr($text, 0, $cut));
        } catch (NotUnderstood $e) {
            throw BadOption::value($value, $e->getMessage());
        }
        if ($cut === false || $prefix->family() !== Family::V4) {
            throw BadOption::value($value, 'a route as "198.51.100.0/24 192.0.2.50"');
        }

        return [$prefix, Addresses::bytes(substr($text, $cut + 1))];
    }

    private static function octets(int $length): int
    {
        return intdiv($length + 7, 8);
    }
}
