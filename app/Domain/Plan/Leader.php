<?php

declare(strict_types=1);

namespace App\Domain\Plan;

use App\Acts\Engine\Ledger;
use App\Queries\OutsideHeld;
use HarborPost\Core\Net\Prefix as Net;

/** Where a system outside leads, what people write here is written over by what comes from there: they are told. */
final class Leader
{
    public static function say(Ledger $ledger, string $space, Net $net): void
    {
        // Whoever sees only a part is not told of systems outside.
        $asks = $ledger->person !== null && ! $ledger->person->isBound();
        $leader = $asks ? OutsideHeld::leader($space, $net) : null;
        $leader === null ?: $ledger->warn(
            'outside-leads',
            "$leader leads in $net",
            'What is written here differs from it until it is written there too; what comes from there goes over it.',
            null,
            'prefix',
            at('ship.outside'),
        );
    }
}
