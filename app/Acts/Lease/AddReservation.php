<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\Reservations;
use App\Models\Ability;
use App\Models\Person;
use App\Models\Scope;
use App\Queries\Granted;
use App\Queries\Reach;

/** A client always gets the same address of a scope. */
final readonly class AddReservation extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Scope', of: Scope::class)]
        public string $scope,
        #[Field(Kind::Line, 'Address', most: 60)]
        public string $address,
        #[Field(Kind::Line, 'Client', 'MAC address, or client identifier as 0x…; of IPv6 its DUID, and "iaid 7" behind it', most: 420)]
        public string $mac,
        #[Field(Kind::Line, 'Name', most: 120)]
        public string $name = '',
    ) {
    }

    public function title(): string
    {
        return "Reserve $this->address for $this->mac";
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
        $scope = ($ledger->person === null ? Scope::query() : Reach::of($ledger->person)->scopes())->with('prefix')->find($this->scope)
            ?? $ledger->refuse('gone', 'This scope is not available to you');
        Reservations::typed($ledger, $scope, $this->address, $this->mac, $this->name);
    }
}
