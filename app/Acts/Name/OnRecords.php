<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Record;
use App\Models\Zone;
use App\Queries\NameRights;
use App\Queries\Reach;
use App\Queries\ZonePage;
use Illuminate\Database\Eloquent\Collection;

/** Acts on records: by role, or by a right on names; on which of them is decided name by name. */
trait OnRecords
{
    public static function may(Person $person): bool
    {
        return $person->operates() || NameRights::any($person);
    }

    /**
     * The records that were picked, or all of the zone that a filter finds.
     *
     * @param  list<string>  $picked
     * @return Collection<int, Record>
     */
    private static function chosen(Ledger $ledger, array $picked, string $zone, string $matching): Collection
    {
        $reach = $ledger->person === null ? null : Reach::of($ledger->person);
        if ($matching !== '') {
            $row = ($reach?->zones() ?? Zone::query())->find($zone)
                ?? $ledger->refuse('gone', 'This zone is not there any more, or not available to you');
            $picked = ZonePage::matching($row, $matching, $reach ?? Reach::whole());
            $picked !== [] ?: $ledger->refuse('none-match', "Nothing matches \"$matching\"");
            count($picked) <= ZonePage::AT_ONCE
                ?: $ledger->refuse(
                    'too-many',
                    'More than '.number_format(ZonePage::AT_ONCE)." records match \"$matching\"",
                    'Narrow the filter, and go on with what is left.',
                );
        }
        $rows = ($reach?->records() ?? Record::query())->with('zone')->whereIn('id', $picked)->orderBy('owner_key')->get();
        if ($rows->isEmpty() || $rows->count() !== count(array_unique($picked))) {
            $ledger->refuse('gone', 'A record of the selection is not there any more, or not available to you');
        }

        return $rows;
    }
}
