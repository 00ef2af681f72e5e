<?php

declare(strict_types=1);

namespace App\Domain\Watch;

use Illuminate\Support\Facades\DB;

/** Counters of what the application itself did, a row a machine: they only go up. */
final class Tallies
{
    public const TRANSFERS = 'transfers';

    public const REQUESTS = 'requests';

    /** @param  array<string, int|float>  $counts  label → by how much */
    public static function add(string $family, array $counts): void
    {
        foreach ($counts as $label => $n) {
            DB::statement(
                'INSERT INTO tallies (machine, family, label, n) VALUES (?, ?, ?, ?) ON DUPLICATE KEY UPDATE n = n + VALUES(n)',
                [Machines::here(), $family, $label, $n],
            );
        }
    }
}
