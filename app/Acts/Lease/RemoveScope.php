<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Scope;
use App\Queries\InUse;

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
        return '/lease';
    }

    public function apply(Ledger $ledger): void
    {
        self::remove($ledger, Scope::query()->find($this->scope) ?? $ledger->refuse('gone', 'The scope is not there any more'));
    }

    public static function remove(Ledger $ledger, Scope $scope): void
    {
        $scope->loadMissing(['ranges', 'exclusions', 'delegations', 'placements', 'reservations.optionValues', 'optionValues']);
        $leases = InUse::activeLeases()->where('scope_id', $scope->id)->count();
        if ($leases > 0) {
            $ledger->warn(
                'leases-run-on',
                "$leases leases of $scope->name run on until they end",
                'Their clients cannot renew once this is shipped.',
                'RFC 2131 §4.4.5',
                null,
                "/lease/scope/$scope->id",
            );
        }
        if ($scope->reservations->isNotEmpty()) {
            $ledger->warn('with-reservations', "{$scope->reservations->count()} reservations of $scope->name go with it");
        }
        $ledger->later("The servers of $scope->name lease on until this is shipped");
        foreach ([$scope->ranges, $scope->exclusions, $scope->delegations, $scope->placements, $scope->reservations,
            $scope->optionValues] as $rows) {
            $rows->each->delete();
        }
        $scope->delete();
    }
}
