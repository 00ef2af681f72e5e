<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Wire;

/** What a shared secret signs with (RFC 8945 §6); the value is its name there, without the final dot. */
enum TsigAlgorithm: string
{
    case Sha256 = 'hmac-sha256';
    case Sha384 = 'hmac-sha384';
    case Sha512 = 'hmac-sha512';

    /** Its name as hash_hmac() takes it. */
    public function hash(): string
    {
        return substr($this->value, 5);
    }

    /** @return positive-int bytes of a whole MAC */
    public function length(): int
    {
        return match ($this) {
            self::Sha256 => 32,
            self::Sha384 => 48,
            self::Sha512 => 64,
        };
    }

    /** Its name in wire form: one label and the root. */
    public function wire(): string
    {
        return chr(strlen($this->value)).$this->value."\0";
    }
}
