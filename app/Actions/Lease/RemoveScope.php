<?php

declare(strict_types=1);

namespace App\Actions\Lease;

use App\Actions\Action;
use App\Actions\Field;
use App\Actions\Kind;
use App\Actions\Ledger;
use App\Models\OptionValue;
use App\Models\Person;
use App\Models\Role;
use App\Models\Scope;

/** A scope is removed with its ranges, options and reservations; servers drop it with the next shipment. */
final readonly class RemoveScope extends Action
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
        return $person->does(Role::Operator) && ! $person->isBound();
    }

    public function landing(): string
    {
        return '/lease';
    }

    public function apply(Ledger $ledger): void
    {
        $scope = Scope::query()->with(['ranges', 'exclusions', 'placements', 'reservations'])->find($this->scope) ?? $ledger->refuse('gone', 'The scope is not there any more');
        if ($scope->reservations->isNotEmpty()) {
            $ledger->warn('with-reservations', "{$scope->reservations->count()} reservations go with it");
        }
        $ledger->warn('until-shipped', 'Its servers lease on until this is shipped');
        foreach ([$scope->ranges, $scope->exclusions, $scope->placements, $scope->reservations] as $rows) {
            $rows->each->delete();
        }
        OptionValue::query()->where('layer', 'scope')->where('layer_id', $scope->id)->get()->each->delete();
        $scope->delete();
    }
}
