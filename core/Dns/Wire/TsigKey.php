<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Wire;

use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;

/** A shared secret with a name, and what it signs with (RFC 8945 §6). */
final readonly class TsigKey
{
    private function __construct(
        public Name $name,
        /** bytes */
        public string $secret,
        public TsigAlgorithm $algorithm,
    ) {
    }

    /** @throws Malformed when the secret is no base 64 or shorter than 16 bytes */
    public static function of(Name $name, string $base64, TsigAlgorithm $algorithm = TsigAlgorithm::Sha256): self
    {
        $secret = base64_decode($base64, true);
        if ($secret === false || strlen($secret) < 16) {
            throw Malformed::because('a secret is at least 16 bytes, in base 64', 'RFC 8945 §8');
        }

        return new self($name->lower(), $secret, $algorithm);
    }
}
