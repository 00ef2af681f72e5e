<?php

declare(strict_types=1);

namespace App\Domain\Watch;

use Illuminate\Support\Facades\DB;

/** The machines that Harbor Post runs on, each heard of every few seconds. */
final class Machines
{
    /** Days after which one that is not heard of is forgotten. */
    private const FORGOTTEN = 7;

    public static function here(): string
    {
        $name = (string) config('harbor.machine');

        return $name === '' ? (string) gethostname() : $name;
    }

    public static function beat(): void
    {
        rescue(static function (): void {
            DB::statement(
                'INSERT INTO machines (name, started_at, seen_at) VALUES (?, UTC_TIMESTAMP(3), UTC_TIMESTAMP(3)) '
                    .'ON DUPLICATE KEY UPDATE '
                    .'started_at = IF(seen_at < UTC_TIMESTAMP(3) - INTERVAL ? SECOND, UTC_TIMESTAMP(3), started_at), '
                    .'seen_at = UTC_TIMESTAMP(3)',
                [self::here(), Duty::LASTS * 4],
            );
            DB::table('machines')->where('seen_at', '<', now()->subDays(self::FORGOTTEN))->delete();
        }, report: false);
    }
}
