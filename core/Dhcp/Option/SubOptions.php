<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Net\Family;

/**
 * Options inside an option: code, length, bytes; of one byte each in DHCPv4 (RFC 2132 §8.4, RFC 3046), of two in DHCPv6 (RFC 8415 §21.1).
 *
 * Written as `CODE=TYPE:VALUE[,VALUE]` with the types address, text, uint8, uint16, uint32 and hex. The bytes do not carry
 * the type, so reading shows text where every byte is printable, addresses where the length allows, hex otherwise.
 */
final readonly class SubOptions implements ValueShape
{
    /** @param  array<int, string>  $names  by code, where a standard names them */
    public function __construct(private Family $family = Family::V4, private array $names = [])
    {
    }

    public function hint(): string
    {
        return $this->family === Family::V4
            ? 'sub-options as "241=address:192.0.2.10,192.0.2.11"; types: address, text, uint8, uint16, uint32, hex'
            : 'sub-options as "1=address:2001:db8::10,2001:db8::11"; types: address, text, uint8, uint16, uint32, hex';
    }

    public function encode(array $values): string
    {
        $payload = '';
        foreach ($values as $value) {
            if (
                preg_match('/\A\s*(\d{1,5})(?: [^=]*)?=(address|text|uint8|uint16|uint32|hex):(.*)\z/s', $value, $m) !== 1
                    || (int) $m[1] < 1
                    || (int) $m[1] > OptionTable::most($this->family)
            ) {
                throw BadOption::value($value, $this->hint());
            }
            $data = $this->data($m[2], $m[3]);
            $most = $this->family === Family::V4 ? 255 : 65535;
            if (strlen($data) > $most) {
                throw BadOption::value($value, sprintf('a sub-option of at most %d bytes, not %d', $most, strlen($data)));
            }
            $payload .= pack($this->family === Family::V4 ? 'CC' : 'nn', (int) $m[1], strlen($data)).$data;
        }

        return $payload !== '' ? $payload : throw BadOption::value('', 'at least one sub-option');
    }

    public function decode(string $payload): array
    {
        $reader = new ByteReader($payload);
        $values = [];
        try {
            while (! $reader->atEnd()) {
                if ($this->family === Family::V6) {
                    $values[] = $this->named($reader->uint16()).'='.$this->meaning($reader->take($reader->uint16()));

                    continue;
                }
                $code = $reader->uint8();
                if ($code === 255) {
                    // The end: what stands behind it is read by nobody (RFC 2132 §8.4).
                    break;
                }
                if ($code === 0) {
                    continue;
                }
                $values[] = $this->named($code).'='.$this->meaning($reader->take($reader->uint8()));
            }
        } catch (MalformedBytes $e) {
            throw BadOption::bytes($e->offset, "a whole sub-option: {$e->expected}; a length byte lies");
        }

        return $values;
    }

    private function named(int $code): string
    {
        return isset($this->names[$code]) ? "$code {$this->names[$code]}" : (string) $code;
    }

    private function data(string $type, string $text): string
    {
        $parts = explode(',', $text);

        return match ($type) {
            'address' => (new Addresses(family: $this->family))->encode($parts),
            'uint8' => (new Numbers(1, false))->encode($parts),
            'uint16' => (new Numbers(2, false))->encode($parts),
            'uint32' => (new Numbers(4, false))->encode($parts),
            'hex' => (new Opaque)->encode([$text]),
            default => $text,
        };
    }

    private function meaning(string $data): string
    {
        if ($data !== '' && preg_match('/\A[\x20-\x7e]+\z/', $data) === 1) {
            return "text:$data";
        }
        if ($data !== '' && strlen($data) % $this->family->bytes() === 0) {
            return 'address:'.implode(',', (new Addresses(family: $this->family))->decode($data));
        }

        return 'hex:'.str_replace(' ', '', Hex::spaced($data));
    }
}
