<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Ability;
use App\Models\HeldRun;
use App\Models\Person;
use App\Queries\Granted;
use App\Queries\Reach;

/** A held run is open again. */
final readonly class LetRunGo extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Held run', of: HeldRun::class)]
        public string $run,
    ) {
    }

    public function title(): string
    {
        return 'Stop holding '.(HeldRun::query()->find($this->run)?->line() ?? 'a held run');
    }

    public static function may(Person $person): bool
    {
        return Granted::works($person, Ability::Hosts);
    }

    public function landing(): string
    {
        return at('plan.prefix', HeldRun::query()->find($this->run)->prefix_id ?? '');
    }

    public function apply(Ledger $ledger): void
    {
        $run = HeldRun::query()->find($this->run) ?? $ledger->refuse('gone', 'The run is not held any more');
        if ($ledger->person !== null && Reach::of($ledger->person)->prefixes()->whereKey($run->prefix_id)->doesntExist()) {
            $ledger->refuse('not-available', 'This subnet is not available to you');
        }
        $run->delete();
    }
}
