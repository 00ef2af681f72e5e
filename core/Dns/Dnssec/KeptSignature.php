<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

use HarborPost\Core\Dns\Name;

/** A signature that was made before, as it is remembered. */
final readonly class KeptSignature
{
    /** @param  string  $digest  ZoneSigner::digest() of the set that was signed */
    public function __construct(public int|string $id, public string $digest, public int $expires)
    {
    }

    public static function key(Name $owner, int $type, int $tag, int $algorithm): string
    {
        return $owner->key().pack('nnC', $type, $tag, $algorithm);
    }
}
