<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

use HarborPost\Core\Dns\Name;

/** How a zone proves that a name does not exist. */
enum Denial: string
{
    /** the next name, readable by everybody (RFC 4034 §4) */
    case Names = 'nsec';

    /** the next hash (RFC 5155), without salt and without further rounds (RFC 9276 §3.1) */
    case Hashes = 'nsec3';

    /** as hashes, leaving unsigned delegations out (RFC 5155 §6): whoever adds one is not noticed */
    case OptOut = 'nsec3-opt-out';

    public const SHA1 = 1;

    public function hashes(): bool
    {
        return $this !== self::Names;
    }

    public function words(): string
    {
        return match ($this) {
            self::Names => 'NSEC: by the next name; anybody can list the zone',
            self::Hashes => 'NSEC3: by the next hash, no salt, no further rounds',
            self::OptOut => 'NSEC3 with opt-out: unsigned delegations are not proved',
        };
    }

    /** The hash of a name (RFC 5155 §5), 20 bytes. */
    public static function hash(Name $name, string $salt = '', int $iterations = 0): string
    {
        $hash = sha1($name->key().$salt, true);
        for ($i = 0; $i < $iterations; $i++) {
            $hash = sha1($hash.$salt, true);
        }

        return $hash;
    }
}
