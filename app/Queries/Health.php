<?php

declare(strict_types=1);

namespace App\Queries;

use Illuminate\Support\Facades\DB;

/**
 * How the application itself is: what a load balancer asks before it sends anybody here, and what a steward looks at.
 *
 * @phpstan-type Check array{ok: bool, must: bool, says: string}
 */
final class Health
{
    /** Seconds after which waiting work, or a scheduler that did not run, is too long. */
    private const LATE = 300;

    /** @return array<string, Check> must: without it nobody can work here */
    public static function checks(): array
    {
        try {
            DB::select('select 1');
        } catch (\Throwable) {
            return ['database' => ['ok' => false, 'must' => true, 'says' => 'it does not answer']];
        }

        return ['database' => ['ok' => true, 'must' => true, 'says' => 'answers']] + [
            'tables' => self::tables(), 'work' => self::work(), 'clockwork' => self::clockwork(), 'disk' => self::disk(),
            'backup' => self::backup(),
        ] + Machines::checks();
    }

    /** @param  array<string, Check>  $checks */
    public static function isReady(array $checks): bool
    {
        foreach ($checks as $check) {
            if ($check['must'] && ! $check['ok']) {
                return false;
            }
        }

        return true;
    }

    /**
     * Steps of the tables that this version knows and the database has not, and the other way round.
     *
     * @return array{list<string>, list<string>} still to be done here; done by a newer version
     */
    public static function steps(): array
    {
        $known = array_map(static fn (string $f): string => basename($f, '.php'), glob(database_path('migrations/*.php')) ?: []);
        $done = DB::table('migrations')->pluck('migration')->map(strval(...))->all();

        return [array_values(array_diff($known, $done)), array_values(array_diff($done, $known))];
    }

    /** @return Check */
    private static function tables(): array
    {
        [$open, $newer] = self::steps();
        $says = match (true) {
            $newer !== [] => 'the database was moved on by a newer version ('.end($newer).'): start that one',
            $open !== [] => (count($open) === 1 ? '1 step is' : count($open).' steps are')." still to be done: $open[0]",
            default => 'as this version needs them',
        };

        return ['ok' => $open === [] && $newer === [], 'must' => true, 'says' => $says];
    }

    /** @return Check */
    private static function work(): array
    {
        $oldest = DB::table('jobs')->whereNull('reserved_at')->where('available_at', '<=', now()->getTimestamp())->min('available_at');
        $age = $oldest === null ? 0 : now()->getTimestamp() - (int) $oldest;
        $failed = DB::table('failed_jobs')->where('failed_at', '>', now()->subDay())->count();

        return [
            'ok' => $age < self::LATE && $failed === 0, 'must' => false,
            'says' => ($age === 0 ? 'nothing waits' : "the oldest has waited $age s").($failed === 0 ? ''
                : ", $failed failed since yesterday"),
        ];
    }

    /** @return Check */
    private static function clockwork(): array
    {
        $at = DB::table('cache')->where('key', 'like', '%'.self::CLOCK)->value('value');
        $last = $at === null ? null : (int) filter_var((string) $at, FILTER_SANITIZE_NUMBER_INT);

        return [
            'ok' => $last !== null && now()->getTimestamp() - $last < self::LATE, 'must' => false,
            'says' => $last === null ? 'nothing that is due by itself was done yet' : 'last ran '.date('j M H:i:s', $last).' UTC',
        ];
    }

    public const CLOCK = 'clockwork';

    /** @return Check */
    private static function disk(): array
    {
        $free = disk_free_space(storage_path()) ?: 0.0;

        return ['ok' => $free > 1e9, 'must' => false, 'says' => sprintf('%.1f GB free', $free / 1e9)];
    }

    /** @return Check */
    private static function backup(): array
    {
        $last = json_decode((string) @file_get_contents(dirname(storage_path()).'/backup.json'), true);
        $at = is_array($last) && is_int($last['at'] ?? null) ? $last['at'] : null;

        return [
            'ok' => $at !== null && now()->getTimestamp() - $at < 2 * 86400, 'must' => false,
            'says' => $at === null ? 'none was taken here yet' : 'the last one is of '.date('j M H:i', $at).' UTC',
        ];
    }
}
