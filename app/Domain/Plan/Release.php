<?php

declare(strict_types=1);

namespace App\Domain\Plan;

use App\Acts\Engine\Ledger;
use App\Domain\Name\Records;
use App\Models\Host;
use App\Models\Record;
use App\Models\Reservation;
use App\Models\Scope;
use App\Queries\InUse;
use App\Queries\Reach;
use Illuminate\Database\Eloquent\Collection;

/** Hosts are given back, with their names and reservations. */
final class Release
{
    /**
     * Hosts of a selection, all of them or none, as far as the person may see them.
     *
     * @param  list<string>  $ids
     */
    public static function picked(Ledger $ledger, array $ids): void
    {
        $hosts = ($ledger->person === null ? Host::query() : Reach::of($ledger->person)->hosts())->whereIn('id', $ids)->get();
        if ($hosts->isEmpty() || $hosts->count() !== count(array_unique($ids))) {
            $ledger->refuse('gone', 'A host of the selection is not there any more, or not available to you');
        }
        self::of($ledger, $hosts);
    }

    /**
     * In sets: records and reservations of all of them first, so that what goes with them is not said to be left behind.
     *
     * @param  Collection<int, Host>  $hosts
     */
    public static function of(Ledger $ledger, Collection $hosts): void
    {
        $ids = $hosts->modelKeys();
        $records = Record::query()->with('zone')->whereIn('address_id', $ids)->get();
        $going = array_values(array_map(strval(...), $records->modelKeys()));
        foreach ($records as $record) {
            Records::warnDangling($ledger, $record, $going);
            Records::remove($record);
        }
        Reservation::query()->whereIn('address_id', $ids)->get()->each->delete();
        foreach ($hosts as $host) {
            $lease = InUse::activeLeases()->where('address', $host->address->bytes)
                ->whereIn('scope_id', Scope::query()->where('prefix_id', $host->prefix_id)->select('id'))->first();
            if ($lease !== null) {
                $ledger->warn(
                    'still-leased',
                    "$host->address is leased to $lease->mac until {$lease->ends_at->format('j M H:i')}",
                    'The client keeps it until then.',
                    null,
                    null,
                    at('lease.lease', $lease->id),
                );
            }
            $host->delete();
            Counter::add($host->prefix_id, -1);
        }
    }
}
