<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Ability;
use App\Models\Person;
use App\Models\Reservation;
use App\Models\Scope;
use App\Queries\Granted;
use App\Queries\Reach;

/** Reservations are given back; the clients get any address next time. */
final readonly class RemoveReservations extends Act
{
    /** @param  list<string>  $reservations */
    public function __construct(
        #[Field(Kind::Ids, 'Reservations', of: Reservation::class)]
        public array $reservations,
        #[Field(Kind::Id, 'Scope', of: Scope::class)]
        public string $scope = '',
    ) {
    }

    public function title(): string
    {
        return 'Remove '.(count($this->reservations) === 1 ? 'a reservation' : count($this->reservations).' reservations');
    }

    public static function may(Person $person): bool
    {
        return Granted::works($person, Ability::Leases);
    }

    public function landing(): string
    {
        return at('lease.scope', $this->scope);
    }

    public function apply(Ledger $ledger): void
    {
        $scopes = $ledger->person === null ? null : Reach::of($ledger->person)->scopes()->select('scopes.id');
        $rows = Reservation::query()->whereIn('id', $this->reservations)->when($scopes, fn ($q) => $q->whereIn('scope_id', $scopes))->get();
        if ($rows->isEmpty() || $rows->count() !== count(array_unique($this->reservations))) {
            $ledger->refuse('gone', 'A reservation of the selection is not there any more, or not available to you');
        }
        $rows->each->delete();
    }
}
