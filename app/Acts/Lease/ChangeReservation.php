<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\Reservations;
use App\Models\Ability;
use App\Models\Host;
use App\Models\Person;
use App\Models\Reservation;
use App\Queries\Granted;
use App\Queries\Reach;

/** A reservation is for another client, of another address, or has another name: its options stay. What is not given stays. */
final readonly class ChangeReservation extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Reservation', of: Reservation::class)]
        public string $reservation,
        #[Field(Kind::Line, 'Address', most: 60)]
        public ?string $address = null,
        #[Field(Kind::Line, 'Client', 'MAC address, or client identifier as 0x…; of IPv6 its DUID, and "iaid 7" behind it', most: 420)]
        public ?string $mac = null,
        #[Field(Kind::Line, 'Name', most: 120, blank: true)]
        public ?string $name = null,
    ) {
    }

    public function title(): string
    {
        return 'Change the reservation '.(Reservation::query()->find($this->reservation)?->line() ?? '');
    }

    public static function may(Person $person): bool
    {
        return Granted::works($person, Ability::Leases);
    }

    public function landing(): string
    {
        return at('lease.scope', Reservation::query()->find($this->reservation)->scope_id ?? '');
    }

    public function apply(Ledger $ledger): void
    {
        $scopes = $ledger->person === null ? null : Reach::of($ledger->person)->scopes()->select('scopes.id');
        $row = Reservation::query()->with('scope.prefix')->when($scopes, static fn ($q) => $q->whereIn('scope_id', $scopes))
            ->lockForUpdate()->find($this->reservation)
            ?? $ledger->refuse('gone', 'The reservation is not there any more, or not available to you');
        $owner = $row->address_id;
        $kept = Reservations::typed(
            $ledger,
            $row->scope,
            $this->address ?? $row->given(),
            $this->mac ?? $row->client(),
            $this->name === null ? $row->name : trim($this->name),
            $row,
        );
        $host = $owner === null || $kept->address_id === $owner ? null : Host::query()->find($owner);
        if ($host !== null) {
            $ledger->later("{$host->line()} has no reservation any more");
        }
    }
}
