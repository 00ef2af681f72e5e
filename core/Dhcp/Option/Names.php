<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\NameCompressor;

/**
 * Domain names in wire form: compressed within the payload in DHCPv4 (RFC 3397 §2, RFC 1035 §4.1.4), never in DHCPv6 (RFC 8415 §10).
 */
final readonly class Names implements ValueShape
{
    public function __construct(private bool $compressed = true)
    {
    }

    public function hint(): string
    {
        return 'domain names in search order';
    }

    public function encode(array $values): string
    {
        if ($values === []) {
            throw BadOption::value('', 'at least one domain name');
        }
        $names = new NameCompressor;
        $payload = '';
        foreach ($values as $value) {
            try {
                $name = Name::parse(trim($value));
                $payload .= $this->compressed ? $names->encode($name, strlen($payload)) : $name->wire;
            } catch (Malformed $e) {
                throw BadOption::value($value, $e->getMessage());
            }
        }

        return $payload;
    }

    public function decode(string $payload): array
    {
        $reader = new ByteReader($payload);
        $names = [];
        try {
            while (! $reader->atEnd()) {
                $at = $reader->position();
                $name = Name::fromWire($reader);
                if (! $this->compressed && $reader->position() - $at !== strlen($name->wire)) {
                    throw BadOption::bytes($at, 'a name without pointers: DHCPv6 does not compress names');
                }
                $names[] = rtrim((string) $name, '.') ?: '.';
            }
        } catch (MalformedBytes $e) {
            throw BadOption::bytes($e->offset, $e->expected);
        }

        return $names !== [] ? $names : throw BadOption::bytes(0, 'at least one domain name');
    }
}
