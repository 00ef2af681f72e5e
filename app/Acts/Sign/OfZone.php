<?php

declare(strict_types=1);

namespace App\Acts\Sign;

use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Zone;

/** What acts on the signing of one zone share. */
trait OfZone
{
    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    private static function signedZone(Ledger $ledger, string $id): Zone
    {
        $zone = Zone::query()->with(['view', 'policy'])->lockForUpdate()->find($id)
            ?? $ledger->refuse('gone', 'The zone is not there any more');
        if ($zone->policy === null) {
            $ledger->refuse('not-signed', "{$zone->title()} is not signed", link: at('name.zone.signing', $zone->id));
        }

        return $zone;
    }
}
