<?php

declare(strict_types=1);

namespace App\Models;

use App\Actions\Ledger;

/** Open only while an Action runs; a model written at any other time throws. Every row written through it is entered in the ledger. */
final class WriteGate
{
    private static ?Ledger $ledger = null;

    /**
     * @template T
     *
     * @param  \Closure(): T  $work
     * @return T
     */
    public static function during(Ledger $ledger, \Closure $work): mixed
    {
        $before = self::$ledger;
        self::$ledger = $ledger;
        try {
            return $work();
        } finally {
            self::$ledger = $before;
        }
    }

    public static function ledger(): Ledger
    {
        return self::$ledger ?? throw new WrittenOutsideAction('A model was written outside an Action. Every write goes through App\Actions.');
    }
}
