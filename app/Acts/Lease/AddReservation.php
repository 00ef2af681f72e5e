<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\Reservations;
use App\Domain\Lease\ReservationsV6;
use App\Domain\Plan\Identifiers;
use App\Models\Ability;
use App\Models\Person;
use App\Models\Scope;
use App\Queries\Granted;
use App\Queries\Reach;
use HarborPost\Core\Dhcp\Client\ClientKey;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\NotUnderstood;

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
        return "/lease/scope/$this->scope";
    }

    public function apply(Ledger $ledger): void
    {
        $scope = ($ledger->person === null ? Scope::query() : Reach::of($ledger->person)->scopes())->with('prefix')->find($this->scope)
            ?? $ledger->refuse('gone', 'This scope is not available to you');
        if ($scope->prefix->family === 6) {
            ReservationsV6::typed($ledger, $scope, $this->address, $this->mac, $this->name);

            return;
        }
        try {
            $address = Address::parse(trim($this->address));
        } catch (NotUnderstood $e) {
            $ledger->refuse('bad-address', $e->getMessage(), field: 'address');
        }
        if (trim($this->mac) === '') {
            $ledger->refuse('no-mac', 'A reservation needs the MAC address or the client identifier', field: 'mac');
        }
        try {
            $client = ClientKey::parse($this->mac);
        } catch (NotUnderstood $e) {
            $ledger->refuse('bad-mac', $e->getMessage(), 'A MAC address, or the bytes of a client identifier as 0x….', null, 'mac');
        }
        if ($client->mac !== null) {
            Identifiers::mac($ledger, (string) $client->mac);
        }
        Reservations::write($ledger, $scope, $address, $client, $this->name, null);
    }
}
