<?php

declare(strict_types=1);

namespace HarborPost\Core\Audit;

/**
 * Entries that each hold the one before: SHA-256 over the link before and the canonical form of the entry (RFC 8785: names in order, no
 * blanks, every letter as it is). Who alters, removes or moves an entry has to make all links after it anew.
 */
final class Chain
{
    /** What stands before the first entry. */
    public const START = '0000000000000000000000000000000000000000000000000000000000000000';

    /** @param  array<string, scalar|null>  $entry */
    public static function link(string $before, array $entry): string
    {
        return hash('sha256', $before."\n".self::canonical($entry));
    }

    /** @param  array<string, scalar|null>  $entry */
    public static function canonical(array $entry): string
    {
        ksort($entry, SORT_STRING);

        return json_encode($entry, JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE);
    }
}
