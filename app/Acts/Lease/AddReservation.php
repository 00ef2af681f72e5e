<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Acts\Plan\PlaceHost;
use App\Models\Host;
use App\Models\Person;
use App\Models\Reservation;
use App\Models\Scope;
use App\Queries\InUse;
use App\Queries\Reach;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\NotUnderstood;

/** A client always gets the same address of a scope. */
final readonly class AddReservation extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Scope', of: Scope::class)]
        public string $scope,
        #[Field(Kind::Line, 'Address', most: 60)]
        public string $address,
        #[Field(Kind::Line, 'MAC', most: 40)]
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
        return $person->operates();
    }

    public function landing(): string
    {
        return "/lease/scope/$this->scope";
    }

    public function apply(Ledger $ledger): void
    {
        $scope = ($ledger->person === null ? Scope::query() : Reach::of($ledger->person)->scopes())->with('prefix')->find($this->scope)
            ?? $ledger->refuse('gone', 'This scope is not available to you');
        try {
            $address = Address::parse(trim($this->address));
        } catch (NotUnderstood $e) {
            $ledger->refuse('bad-address', $e->getMessage(), field: 'address');
        }
        $mac = PlaceHost::mac($ledger, $this->mac) ?? $ledger->refuse('no-mac', 'A reservation needs the MAC address', field: 'mac');
        self::write($ledger, $scope, $address, $mac, $this->name, null);
    }

    public static function write(Ledger $ledger, Scope $scope, Address $address, MacAddress $mac, string $name, ?string $host): void
    {
        $net = $scope->prefix->prefix();
        $page = "/lease/scope/$scope->id";
        if (! $net->usable()->contains($address)) {
            $ledger->refuse('reservation-outside', "$address is not a usable address of $net", field: 'address', link: $page);
        }
        $same = Reservation::query()->where('scope_id', $scope->id)
            ->where(fn ($q) => $q->where('mac', $mac->bytes)->orWhere('address', $address->bytes))->first();
        if ($same !== null) {
            $same->mac->equals($mac)
                ? $ledger->refuse(
                    'mac-reserved',
                    "$mac already has $same->address reserved here",
                    'One client has one reservation in a scope.',
                    null,
                    'mac',
                    $page,
                )
                : $ledger->refuse(
                    'address-reserved',
                    "$address is reserved for $same->mac",
                    'Choose another address.',
                    null,
                    'address',
                    $page,
                );
        }
        // Only where the person may look: of other people's clients nothing is told.
        $seen = $ledger->person === null ? Scope::query() : Reach::of($ledger->person)->scopes();
        $elsewhere = Reservation::query()->with('scope')->where('mac', $mac->bytes)
            ->whereIn('scope_id', $seen->select('scopes.id'))->first();
        if ($elsewhere !== null) {
            $ledger->warn(
                'mac-elsewhere',
                "$mac is also reserved in {$elsewhere->scope->name}",
                'That is right for a device that moves between subnets.',
                null,
                'mac',
                "/lease/scope/$elsewhere->scope_id",
            );
        }
        $lease = InUse::activeLeases()->where('address', $address->bytes)->where('scope_id', $scope->id)->first();
        if ($lease !== null && $lease->mac?->equals($mac) !== true) {
            $ledger->warn(
                'leased-to-another',
                "$address is leased to ".($lease->mac ?? 'a client without a MAC').' until '.$lease->ends_at->format('j M H:i'),
                'The server gives it to the new client only when that lease has ended.',
                null,
                'address',
            );
        }
        $owner = $host === null
            ? Host::query()->where('space_id', $scope->prefix->space_id)->where('family', 4)->where('address', $address->bytes)->first()
            : null;
        if ($owner !== null && $owner->mac !== null && ! $owner->mac->equals($mac)) {
            $ledger->warn(
                'other-host',
                "{$owner->line()} is planned with $owner->mac",
                'The reservation is for another device.',
                null,
                'mac',
            );
        }
        (
            new Reservation([
                'scope_id' => $scope->id, 'address' => $address, 'mac' => $mac, 'name' => $name, 'address_id' => $host ?? $owner?->id,
            ])
        )->save();
        $ledger->passed('one-reservation', 'The client and the address are reserved once');
    }
}
