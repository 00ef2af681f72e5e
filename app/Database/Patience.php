<?php

declare(strict_types=1);

namespace App\Database;

use Illuminate\Database\QueryException;
use Illuminate\Support\Facades\DB;

/** No statement of a piece of work takes longer than this: the database gives it up then. */
final class Patience
{
    private const GIVEN_UP = 1969;

    /**
     * @template T
     *
     * @param  \Closure(): T  $work
     * @return T
     */
    public static function within(float $seconds, \Closure $work): mixed
    {
        try {
            DB::statement("SET SESSION max_statement_time = $seconds");

            return $work();
        } finally {
            DB::statement('SET SESSION max_statement_time = 0');
        }
    }

    public static function isOver(\Throwable $e): bool
    {
        return $e instanceof QueryException && ($e->errorInfo[1] ?? null) === self::GIVEN_UP;
    }
}
