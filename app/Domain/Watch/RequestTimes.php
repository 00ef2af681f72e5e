<?php

declare(strict_types=1);

namespace App\Domain\Watch;

use App\Queries\Metrics;

/**
 * How long pages took, as the web server saw it: it writes a line a request (verb, status, seconds; no address, no name), and each machine
 * folds its own file into counters.
 */
final class RequestTimes
{
    public const VERBS = ['plan', 'name', 'lease', 'ship', 'watch', 'directory', 'act', 'api', 'other'];

    /** Bytes beyond which the file begins anew. */
    private const MOST = 32 << 20;

    public static function fold(string $file): int
    {
        $mark = "$file.read";
        $size = is_file($file) ? (int) filesize($file) : 0;
        $from = min((int) @file_get_contents($mark), PHP_INT_MAX);
        // It was begun anew by somebody else.
        $from = $from > $size ? 0 : $from;
        $log = $size > $from ? fopen($file, 'r') : false;
        if ($log === false) {
            return 0;
        }
        fseek($log, $from);
        $counts = [];
        $lines = 0;
        while (($line = fgets($log)) !== false && str_ends_with($line, "\n")) {
            $from += strlen($line);
            $lines += self::count($line, $counts) ? 1 : 0;
        }
        fclose($log);
        Tallies::add(Tallies::REQUESTS, $counts);
        clearstatcache();
        if ($from > self::MOST && $from === (int) filesize($file)) {
            // What is written to it in this moment is lost: a few requests of millions.
            file_put_contents($file, '');
            $from = 0;
        }
        file_put_contents($mark, (string) $from);

        return $lines;
    }

    /** @param  array<string, int|float>  $counts */
    private static function count(string $line, array &$counts): bool
    {
        if (preg_match('/\A([a-z]+) (\d{3}) (\d{1,6}\.\d{3})\n\z/', $line, $m) !== 1 || ! in_array($m[1], self::VERBS, true)) {
            return false;
        }
        [, $verb, $status, $seconds] = $m;
        foreach (Metrics::BOUNDS as $bound) {
            (float) $seconds <= (float) $bound && $counts["$verb le $bound"] = ($counts["$verb le $bound"] ?? 0) + 1;
        }
        $counts["$verb count"] = ($counts["$verb count"] ?? 0) + 1;
        $counts["$verb sum"] = ($counts["$verb sum"] ?? 0) + (float) $seconds;
        if ((int) $status >= 500) {
            $counts["$verb failed"] = ($counts["$verb failed"] ?? 0) + 1;
        }

        return true;
    }
}
