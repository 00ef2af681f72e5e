<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\BadOption;

/**
 * Vendor information by enterprise number (RFC 3925 §4): number, length, sub-options. Written as `NUMBER: CODE=TYPE:VALUE
 * CODE=TYPE:VALUE`.
 */
final readonly class Enterprises implements ValueShape
{
    public function hint(): string
    {
        return 'an enterprise number and its sub-options as "3561: 1=text:abc 2=address:192.0.2.1"';
    }

    public function encode(array $values): string
    {
        $payload = '';
        foreach ($values as $value) {
            if (preg_match('/\A\s*(\d{1,10})\s*:\s*(.+)\z/s', $value, $m) !== 1 || (int) $m[1] > 0xFFFFFFFF) {
                throw BadOption::value($value, $this->hint());
            }
            $data = (new SubOptions)->encode(array_map(trim(...), preg_split('/\s+(?=\d{1,3}=)/', trim($m[2])) ?: []));
            if (strlen($data) > 255) {
                throw BadOption::value($value, sprintf('sub-options of at most 255 bytes, not %d', strlen($data)));
            }
            $payload .= pack('NC', (int) $m[1], strlen($data)).$data;
        }

        return $payload !== '' ? $payload : throw BadOption::value('', 'at least one enterprise');
    }

    public function decode(string $payload): array
    {
        $reader = new ByteReader($payload);
        $values = [];
        try {
            while (! $reader->atEnd()) {
                $number = $reader->uint32();
                $at = $reader->position();
                try {
                    $values[] = "$number: ".implode(' ', (new SubOptions)->decode($reader->take($reader->uint8())));
                } catch (BadOption $e) {
                    throw BadOption::bytes($at + 1 + (int) $e->offset, 'whole sub-options of the enterprise; a length byte lies');
                }
            }
        } catch (MalformedBytes $e) {
            throw BadOption::bytes($e->offset, "a whole enterprise: {$e->expected}; a length byte lies");
        }

        return $values !== [] ? $values : throw BadOption::bytes(0, 'at least one enterprise');
    }
}
