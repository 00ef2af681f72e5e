<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\Base32;
use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Dns\RecordType;

/** As NSEC, with names as hashes (RFC 5155 §3). */
final readonly class Nsec3 implements BuiltRdata
{
    public const OPT_OUT = 1;

    public function __construct(
        public int $algorithm,
        public int $flags,
        public int $iterations,
        public string $salt,
        /** bytes of the next hash */
        public string $next,
        public TypeBitmap $types,
    ) {
    }

    public static function fromText(Fields $fields): self
    {
        [$algorithm, $flags, $iterations, $salt] = self::parameters($fields);
        $text = $fields->raw('the next hash');
        $next = Base32::Hex->decode($text);

        return new self(
            $algorithm, $flags, $iterations, $salt,
            $next === null || $next === '' ? throw $fields->fault("\"$text\" is no hash in base 32", 'RFC 5155 §3.3') : $next,
            TypeBitmap::fromText($fields),
        );
    }

    public static function fromWire(ByteReader $reader): self
    {
        [$algorithm, $flags, $iterations] = [$reader->uint8(), $reader->uint8(), $reader->uint16()];
        $salt = $reader->take($reader->uint8());
        $length = $reader->uint8();
        if ($length === 0) {
            throw MalformedBytes::at($reader->position() - 1, 'a hash of at least one byte');
        }

        return new self($algorithm, $flags, $iterations, $salt, $reader->take($length), TypeBitmap::fromWire($reader));
    }

    public function type(): RecordType
    {
        return RecordType::of(RecordType::NSEC3);
    }

    public function optOut(): bool
    {
        return ($this->flags & self::OPT_OUT) !== 0;
    }

    public function wire(?NameCompressor $names = null, int $offset = 0): string
    {
        return pack('CCn', $this->algorithm, $this->flags, $this->iterations)
            .chr(strlen($this->salt)).$this->salt.chr(strlen($this->next)).$this->next.$this->types->wire();
    }

    public function canonical(): string
    {
        return $this->wire();
    }

    public function text(): string
    {
        return rtrim(
            "$this->algorithm $this->flags $this->iterations ".self::saltText($this->salt).' '.Base32::Hex->encode($this->next)
                .' '.$this->types->text(),
        );
    }

    public static function saltText(string $salt): string
    {
        return $salt === '' ? '-' : bin2hex($salt);
    }

    /** @return array{int, int, int, string} algorithm, flags, iterations and salt, which NSEC3 and NSEC3PARAM start with */
    public static function parameters(Fields $fields): array
    {
        $numbers = [
            $fields->number('the hash algorithm', 8), $fields->number('the flags', 8), $fields->number('the iterations', 16),
        ];
        $salt = $fields->raw('the salt');
        if ($salt !== '-' && preg_match('/\A([0-9a-f]{2}){1,255}\z/i', $salt) !== 1) {
            throw $fields->fault("the salt is \"-\" or digits in pairs, not \"$salt\"", 'RFC 5155 §3.3');
        }

        return [...$numbers, $salt === '-' ? '' : (string) hex2bin($salt)];
    }
}
