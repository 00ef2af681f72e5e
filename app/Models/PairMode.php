<?php

declare(strict_types=1);

namespace App\Models;

/** How the two servers of a pair share the work. */
enum PairMode: string
{
    case Balance = 'balance';
    case Standby = 'standby';

    public function title(): string
    {
        return $this === self::Balance ? 'both answer' : 'one stands by';
    }

    /** @return array<string, string> */
    public static function choices(): array
    {
        return [self::Balance->value => 'both answer, each its part of the clients', self::Standby->value => 'the second stands by'];
    }

    /** What the percentage is of. */
    public function percentWords(int $percent): string
    {
        return $this === self::Balance
            ? "$percent % of the clients and of the addresses are the first server's"
            : "$percent % of the addresses are kept for the second";
    }
}
