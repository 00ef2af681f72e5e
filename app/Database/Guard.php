<?php

declare(strict_types=1);

namespace App\Database;

use Illuminate\Support\Facades\DB;

/**
 * Locks as written rows: the only kind that every node of a cluster sees. What is to be alone writes its guard row first; rules over
 * several rows are checked after that, in the same transaction.
 *
 * A fixed table of 65,536 rows stands for everything; two things that share a row only wait for each other without need.
 */
final class Guard
{
    private const ROWS = 65_536;

    /** Into how many rows a thing is split that many may share and one may want alone. */
    private const SHARES = 16;

    /** Alone with these, until the transaction ends: nobody else owns or shares one of them. */
    public static function own(string ...$things): void
    {
        self::write(array_map(self::row(...), array_values($things)));
    }

    /** Among others who share it: keeps away only somebody who wants it alone. */
    public static function share(string $thing): void
    {
        // Workers have neighbouring process ids, so they seldom meet in one row.
        self::write([self::row($thing.'#'.((int) getmypid() % self::SHARES))]);
    }

    /** Keeps everybody away who shares it. */
    public static function alone(string $thing): void
    {
        self::write(array_map(static fn (int $i): int => self::row("$thing#$i"), range(0, self::SHARES - 1)));
    }

    /** Owns it if that can be had without waiting. */
    public static function tryOwn(string $thing): bool
    {
        $row = self::row($thing);
        if (DB::select('SELECT id FROM guards WHERE id = ? FOR UPDATE SKIP LOCKED', [$row]) === []) {
            return false;
        }
        self::write([$row]);

        return true;
    }

    /** @param  list<int>  $rows */
    private static function write(array $rows): void
    {
        sort($rows);
        foreach (array_chunk(array_values(array_unique($rows)), 1000) as $chunk) {
            DB::table('guards')->whereIn('id', $chunk)->orderBy('id')->increment('n');
        }
    }

    private static function row(string $thing): int
    {
        return crc32($thing) % self::ROWS;
    }
}
