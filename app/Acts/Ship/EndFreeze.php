<?php

declare(strict_types=1);

namespace App\Acts\Ship;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Freeze;
use App\Models\Person;

/** A freeze is over, or never was. */
final readonly class EndFreeze extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Freeze', of: Freeze::class)]
        public string $freeze,
    ) {
    }

    public function title(): string
    {
        return 'End the freeze '.(Freeze::query()->find($this->freeze)->why ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('ship.times');
    }

    public function apply(Ledger $ledger): void
    {
        (Freeze::query()->find($this->freeze) ?? $ledger->refuse('gone', 'The freeze is not there any more'))->delete();
    }
}
