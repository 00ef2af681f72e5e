<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Hook;
use App\Models\Person;
use App\Models\Role;

/** A system outside is told of nothing any more. */
final readonly class RemoveHook extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Hook', of: Hook::class)]
        public string $hook,
    ) {
    }

    public function title(): string
    {
        return 'Remove a hook';
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Steward) && ! $person->isBound();
    }

    public static function governed(): bool
    {
        return false;
    }

    public function landing(): string
    {
        return at('ship.hooks');
    }

    public function apply(Ledger $ledger): void
    {
        $hook = Hook::query()->find($this->hook) ?? $ledger->refuse('gone', 'The hook is not there any more');
        $hook->delete();
        $ledger->later('What was not delivered by now is not told to it any more');
    }
}
