<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\Scopes;
use App\Models\Person;
use App\Models\Scope;

/** A scope is removed with its ranges, options and reservations; servers drop it with the next shipment. */
final readonly class RemoveScope extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Scope', of: Scope::class)]
        public string $scope,
    ) {
    }

    public function title(): string
    {
        return 'Remove the scope '.(Scope::query()->find($this->scope)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('lease');
    }

    public function apply(Ledger $ledger): void
    {
        Scopes::remove($ledger, Scope::query()->find($this->scope) ?? $ledger->refuse('gone', 'The scope is not there any more'));
    }
}
