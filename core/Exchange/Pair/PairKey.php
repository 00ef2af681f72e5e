<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange\Pair;

/** What the two sides say of a key in place of the key, to compare what runs with what is meant. */
final class PairKey
{
    public static function mark(string $secret): string
    {
        return substr(hash('sha256', "pair key $secret"), 0, 16);
    }
}
