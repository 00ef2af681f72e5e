<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\Malformed;

/** Digests have the length that their type says; types that are not known are not judged. */
final class Digests
{
    /**
     * @param  array<int, int>  $lengths  type → bytes
     *
     * @throws Malformed
     */
    public static function check(mixed $type, mixed $digest, array $lengths, string $standard, int $field): void
    {
        if (is_int($type) && is_string($digest) && isset($lengths[$type]) && strlen($digest) !== $lengths[$type]) {
            throw Malformed::because(
                "a digest of type $type has {$lengths[$type]} bytes, here are ".strlen($digest),
                $standard,
            )->inField($field);
        }
    }
}
