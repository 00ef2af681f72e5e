<?php

declare(strict_types=1);

namespace App\Acts\Ship;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Domain\Name\ServedTtls;
use App\Domain\Name\Signing;
use App\Models\Person;
use App\Models\Zone;
use HarborPost\Core\Dns\Serial;
use Illuminate\Support\Facades\DB;

/** Raises the serial of zones with changes that wait, once, and marks those changes with it: what servers are then brought to. */
final readonly class StampZones extends Act
{
    /** @param  array<string, ?int>  $zones  id → a serial that a server runs and that ours must pass, if it is ahead */
    public function __construct(public array $zones)
    {
    }

    public function title(): string
    {
        return 'Raise serials';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function apply(Ledger $ledger): void
    {
        foreach (Zone::query()->whereIn('id', array_keys($this->zones))->lockForUpdate()->get() as $zone) {
            $ahead = $this->zones[$zone->id] ?? null;
            $waits = DB::table('record_changes')->where('zone_id', $zone->id)->whereNull('serial')->exists();
            $serial = Serial::of($zone->serial);
            $behind = $ahead !== null && ! Serial::of($ahead)->isBefore($serial);
            if (! $waits && ! $behind && $zone->serial !== 0) {
                continue;
            }
            $serial = $behind ? Serial::of($ahead) : $serial;
            $zone->serial = $serial->nextOn($ledger->at)->value;
            $zone->save();
            DB::table('record_changes')->where('zone_id', $zone->id)->whereNull('serial')->update(['serial' => $zone->serial]);
            ServedTtls::stamped($zone);
            // The SOA is signed too, so a new serial is a new signature; a zone that left its policy loses them all.
            Signing::renew($zone, $ledger->at->getTimestamp());
        }
    }
}
