<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Models\Lease;
use App\Models\Person;

/** Leases that a server had lost, and has again since somebody gave them back to it. */
final readonly class ReturnLeases extends Act
{
    /** @param  list<int>  $leases */
    public function __construct(public array $leases)
    {
    }

    public function title(): string
    {
        return 'Give '.count($this->leases).(count($this->leases) === 1 ? ' lease' : ' leases').' back to the server';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public static function governed(): bool
    {
        return false;
    }

    public function apply(Ledger $ledger): void
    {
        foreach (Lease::query()->whereKey($this->leases)->get() as $lease) {
            $lease->gone_at = null;
            $lease->save();
        }
    }
}
