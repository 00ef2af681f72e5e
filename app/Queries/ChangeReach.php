<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Scope;
use HarborPost\Core\Exchange\LeaseAdvice;
use HarborPost\Core\Exchange\Renewals;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

/** When a change of a scope has reached its clients, and how long its leases should be: from the leases as they were last read. */
final class ChangeReach
{
    /** Steps of the curve: clients are counted in slices of the renewal time, not one by one. */
    private const SLICES = 60;

    public static function of(Scope $scope): Renewals
    {
        $slice = max(1, intdiv($scope->preferred(), 2 * self::SLICES));
        $asking = [];
        foreach (
            InUse::activeLeases()->where('scope_id', $scope->id)->groupBy('slice')
                ->selectRaw(
                    'GREATEST(0, CEIL((TIMESTAMPDIFF(SECOND, ?, ends_at) - ?) / ?)) AS slice, COUNT(*) AS n',
                    [Carbon::now(), $scope->lease_time - intdiv($scope->preferred(), 2), $slice],
                )->toBase()->get() as $row
        ) {
            $asking[(int) $row->slice * $slice] = (int) $row->n;
        }

        return Renewals::of($asking);
    }

    /** @param  int  $outage  seconds */
    public static function advice(Scope $scope, int $outage): LeaseAdvice
    {
        $pool = $scope->size();
        $new = DB::table('leases')->where('scope_id', $scope->id)->where('starts_at', '>', Carbon::now()->subDays(Coverage::DAYS))->count();

        return LeaseAdvice::of($outage, $pool, $new / (24 * Coverage::DAYS));
    }
}
