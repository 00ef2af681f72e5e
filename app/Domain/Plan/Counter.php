<?php

declare(strict_types=1);

namespace App\Domain\Plan;

use Illuminate\Support\Facades\DB;

/** Use is counted as deltas and folded later by one process, so that placing hosts in one subnet does not wait for a hot row. */
final class Counter
{
    public static function add(string $prefix, int $delta): void
    {
        DB::table('use_deltas')->insert(['prefix_id' => $prefix, 'delta' => $delta]);
    }

    /** Adds what has come in to the prefixes; run by the scheduler. */
    public static function fold(): int
    {
        return DB::transaction(function (): int {
            $until = (int) DB::table('use_deltas')->max('id');
            $rows = DB::table('use_deltas')->where('id', '<=', $until)->lockForUpdate()->get(['id', 'prefix_id', 'delta']);
            foreach ($rows->groupBy('prefix_id') as $prefix => $deltas) {
                DB::table('prefixes')->where('id', $prefix)
                    ->update(['used' => DB::raw('GREATEST(0, CAST(used AS SIGNED) + ('.(int) $deltas->sum('delta').'))')]);
            }
            foreach ($rows->pluck('id')->chunk(1000) as $ids) {
                DB::table('use_deltas')->whereIn('id', $ids->all())->delete();
            }

            return $rows->count();
        });
    }
}
