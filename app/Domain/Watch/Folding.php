<?php

declare(strict_types=1);

namespace App\Domain\Watch;

use Illuminate\Support\Facades\DB;

/**
 * Figures by the minute are folded to five minutes, these to hours, and hours to days; what is folded is let go after its time, in small
 * transactions. What one series takes for two years: 2,880 minutes, 8,640 times five minutes, 17,520 hours, 730 days, some 30,000 rows.
 */
final class Folding
{
    /** step in minutes → [the step it is folded from, days that it is kept] */
    public const STEPS = [1 => [null, 2], 5 => [1, 30], 60 => [5, 730], 1440 => [60, 3650]];

    private const ROWS = 5000;

    /** @return array<int, int> step → rows written or let go */
    public static function run(\DateTimeImmutable $now): array
    {
        $done = [];
        foreach (self::STEPS as $step => [$from, $days]) {
            $done[$step] = $from === null ? 0 : self::fold($step, $from, $now);
            $before = $now->modify("-$days day")->format('Y-m-d H:i:s');
            do {
                $gone = DB::table('samples')->where('step', $step)->where('at', '<', $before)->limit(self::ROWS)->delete();
                $done[$step] += $gone;
            } while ($gone === self::ROWS);
        }

        return $done;
    }

    /** Folds what is whole since the last fold; the last slot again, for what came late. */
    private static function fold(int $step, int $from, \DateTimeImmutable $now): int
    {
        $seconds = 60 * $step;
        $until = gmdate('Y-m-d H:i:s', intdiv($now->getTimestamp(), $seconds) * $seconds);
        $last = DB::table('samples')->where('step', $step)->max('at') ?? DB::table('samples')->where('step', $from)->min('at');
        if ($last === null) {
            return 0;
        }

        $last = intdiv((int) strtotime("$last UTC"), $seconds) * $seconds;
        if ($last + $seconds >= (int) strtotime("$until UTC") && DB::table('samples')->where('step', $step)->exists()) {
            return 0;
        }

        // By seconds since a fixed day: no clock of a session or a summer is in it.
        return DB::affectingStatement(
            "INSERT INTO samples (series_id, step, at, low, mean, high)
            SELECT series_id, ?, DATE_ADD('2000-01-01', INTERVAL TIMESTAMPDIFF(SECOND, '2000-01-01', at) DIV ? * ? SECOND) AS slot,
                MIN(low), AVG(mean), MAX(high)
            FROM samples WHERE step = ? AND at >= ? AND at < ? GROUP BY series_id, slot
            ON DUPLICATE KEY UPDATE low = VALUES(low), mean = VALUES(mean), high = VALUES(high)",
            [$step, $seconds, $seconds, $from, gmdate('Y-m-d H:i:s', $last), $until],
        );
    }
}
