<?php

declare(strict_types=1);

namespace App\Domain\Name;

use App\Acts\Engine\Ledger;
use App\Models\Zone;
use App\Queries\NameRights;
use HarborPost\Core\Dns\Name;

/** Asks for the right on one name before it is written. */
final class NameGate
{
    public static function check(Ledger $ledger, Zone $zone, Name $owner, ?int $type = null): void
    {
        if ($ledger->person !== null && ! NameRights::may($ledger->person, $zone, $owner, $type)) {
            $ledger->refuse(
                'no-right-on-name',
                rtrim((string) $owner, '.').' is not available to you',
                'Your rights in this zone do not cover this record. A planner or steward can change that.',
                field: 'name',
            );
        }
    }
}
