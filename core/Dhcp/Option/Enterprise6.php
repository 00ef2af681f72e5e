<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Net\Family;

/** Vendor information of DHCPv6 (RFC 8415 §21.17): one enterprise number and its sub-options, as `NUMBER: CODE=TYPE:VALUE …`. */
final readonly class Enterprise6 implements ValueShape
{
    public function hint(): string
    {
        return 'one enterprise number and its sub-options as "3561: 1=text:abc 2=address:2001:db8::1"';
    }

    public function encode(array $values): string
    {
        if (count($values) !== 1 || preg_match('/\A\s*(\d{1,10})\s*:\s*(.+)\z/s', $values[0], $m) !== 1 || (int) $m[1] > 0xFFFFFFFF) {
            throw BadOption::value(implode(' ', $values), $this->hint());
        }
        $parts = array_map(trim(...), preg_split('/\s+(?=\d{1,5}=)/', trim($m[2])) ?: []);

        return pack('N', (int) $m[1]).(new SubOptions(Family::V6))->encode($parts);
    }

    public function decode(string $payload): array
    {
        $reader = new ByteReader($payload);
        try {
            $number = $reader->uint32();

            return ["$number: ".implode(' ', (new SubOptions(Family::V6))->decode($reader->take($reader->remaining())))];
        } catch (MalformedBytes $e) {
            throw BadOption::bytes($e->offset, "an enterprise number: {$e->expected}");
        } catch (BadOption $e) {
            throw BadOption::bytes(4 + (int) $e->offset, 'whole sub-options of the enterprise; a length lies');
        }
    }
}
