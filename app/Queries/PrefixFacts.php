<?php

declare(strict_types=1);

namespace App\Queries;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Prefix;

/** What a prefix says of itself, for the console and for pages. */
final class PrefixFacts
{
    /**
     * @return array{understood: string, family: int, network: string, length: int, mask: string, wildcard: string, first: string,
     *     last: string, first_usable: string, last_usable: string, broadcast: ?string, size: string, usable: string,
     *     reverse_zones: list<string>, hex: string}
     */
    public static function of(Prefix $prefix): array
    {
        $usable = $prefix->usable();

        return [
            'understood' => (string) $prefix, 'family' => $prefix->family()->value, 'network' => (string) $prefix->first,
            'length' => $prefix->length,
            'mask' => (string) $prefix->mask(), 'wildcard' => (string) $prefix->wildcard(), 'first' => (string) $prefix->first,
            'last' => (string) $prefix->last(),
            'first_usable' => (string) $usable->first, 'last_usable' => (string) $usable->last,
            'broadcast' => $prefix->broadcast() === null ? null : (string) $prefix->broadcast(),
            'size' => (string) $prefix->size(), 'usable' => (string) $usable->size(),
            'reverse_zones' => array_map(static fn (Name $n): string => rtrim((string) $n, '.'), ReverseName::zones($prefix)),
            'hex' => bin2hex($prefix->first->bytes),
        ];
    }
}
