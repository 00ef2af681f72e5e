<?php

declare(strict_types=1);

namespace App\Models;

/** What a prefix is there for: a supernet groups prefixes, a subnet is a link with hosts, a pool is handed out in parts by others. */
enum PrefixKind: string
{
    case Subnet = 'subnet';
    case Supernet = 'supernet';
    case Pool = 'pool';

    /** Does it hold prefixes, so that its space is carved? */
    public function groups(): bool
    {
        return $this === self::Supernet;
    }

    /** @return list<string> */
    public static function values(): array
    {
        return array_column(self::cases(), 'value');
    }

    /** @return array<string, string> value → word */
    public static function choices(): array
    {
        return array_combine(self::values(), self::values());
    }
}
