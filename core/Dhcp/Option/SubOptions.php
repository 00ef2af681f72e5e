<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\BadOption;

/**
 * Options inside an option (RFC 2132 §8.4, RFC 3046): code, length, bytes.
 *
 * Written as `CODE=TYPE:VALUE[,VALUE]` with the types address, text, uint8, uint16, uint32 and hex. The bytes do not carry
 * the type, so reading shows text where every byte is printable, addresses where the length allows, hex otherwise.
 */
final readonly class SubOptions implements ValueShape
{
    public function hint(): string
    {
        return 'sub-options as "241=address:192.0.2.10,192.0.2.11"; types: address, text, uint8, uint16, uint32, hex';
    }

    public function encode(array $values): string
    {
        $payload = '';
        foreach ($values as $value) {
            if (
                preg_match('/\A\s*(\d{1,3})=(address|text|uint8|uint16|uint32|hex):(.*)\z/s', $value, $m) !== 1
                    || (int) $m[1] < 1
                    || (int) $m[1] > 254
            ) {
                throw BadOption::value($value, $this->hint());
            }
            $data = self::data($m[2], $m[3]);
            if (strlen($data) > 255) {
                throw BadOption::value($value, sprintf('a sub-option of at most 255 bytes, not %d', strlen($data)));
            }
            $payload .= chr((int) $m[1]).chr(strlen($data)).$data;
        }

        return $payload !== '' ? $payload : throw BadOption::value('', 'at least one sub-option');
    }

    public function decode(string $payload): array
    {
        $reader = new ByteReader($payload);
        $values = [];
        try {
            while (! $reader->atEnd()) {
                $code = $reader->uint8();
                if ($code === 255) {
                    // The end: what stands behind it is read by nobody (RFC 2132 §8.4).
                    break;
                }
                if ($code === 0) {
                    continue;
                }
                $values[] = "$code=".self::meaning($reader->take($reader->uint8()));
            }
        } catch (MalformedBytes $e) {
            throw BadOption::bytes($e->offset, "a whole sub-option: {$e->expected}; a length byte lies");
        }

        return $values;
    }

    private static function data(string $type, string $text): string
    {
        $parts = explode(',', $text);

        return match ($type) {
            'address' => (new Addresses)->encode($parts),
            'uint8' => (new Numbers(1, false))->encode($parts),
            'uint16' => (new Numbers(2, false))->encode($parts),
            'uint32' => (new Numbers(4, false))->encode($parts),
            'hex' => (new Opaque)->encode([$text]),
            default => $text,
        };
    }

    private static function meaning(string $data): string
    {
        if ($data !== '' && preg_match('/\A[\x20-\x7e]+\z/', $data) === 1) {
            return "text:$data";
        }
        if ($data !== '' && strlen($data) % 4 === 0) {
            return 'address:'.implode(',', (new Addresses)->decode($data));
        }

        return 'hex:'.str_replace(' ', '', Hex::spaced($data));
    }
}
