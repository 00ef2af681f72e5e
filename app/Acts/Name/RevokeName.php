<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\NameGrant;
use App\Models\Person;
use App\Models\Role;

/** A right on names is taken back. */
final readonly class RevokeName extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Right', of: NameGrant::class)]
        public string $grant,
    ) {
    }

    public function title(): string
    {
        return 'Take back: '.(NameGrant::query()->find($this->grant)?->line() ?? 'a right');
    }

    public static function may(Person $person): bool
    {
        return ($person->does(Role::Steward) || $person->does(Role::Planner)) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('name.zone', NameGrant::query()->find($this->grant)->zone_id ?? '');
    }

    public function apply(Ledger $ledger): void
    {
        (NameGrant::query()->find($this->grant) ?? $ledger->refuse('gone', 'The right is not there any more'))->delete();
    }
}
