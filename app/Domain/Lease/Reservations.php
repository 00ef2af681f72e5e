<?php

declare(strict_types=1);

namespace App\Domain\Lease;

use App\Acts\Engine\Ledger;
use App\Domain\Plan\Identifiers;
use App\Models\Host;
use App\Models\Reservation;
use App\Models\Scope;
use App\Queries\InUse;
use App\Queries\Reach;
use HarborPost\Core\Dhcp\Client\ClientKey;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\NotUnderstood;

/** A client's fixed address in a scope, written by whichever act: once, and with what stands against it said. */
final class Reservations
{
    /**
     * What was typed, in either family.
     *
     * @param  ?Reservation  $row  one that is changed; null: a new one
     */
    public static function typed(
        Ledger $ledger,
        Scope $scope,
        string $given,
        string $known,
        string $name,
        ?Reservation $row = null,
    ): Reservation {
        if ($scope->prefix->family === 6) {
            return ReservationsV6::typed($ledger, $scope, $given, $known, $name, $row);
        }
        try {
            $address = Address::parse(trim($given));
        } catch (NotUnderstood $e) {
            $ledger->refuse('bad-address', $e->getMessage(), field: 'address');
        }
        if (trim($known) === '') {
            $ledger->refuse(
                'no-client',
                'A reservation needs the MAC address or the client identifier',
                'It is what the client says of itself: 00:00:5e:00:53:17, or the bytes of option 61 as 0x….',
                'RFC 2131 §4.2',
                'mac',
            );
        }
        try {
            $client = ClientKey::parse($known);
        } catch (NotUnderstood $e) {
            $ledger->refuse('bad-mac', $e->getMessage(), 'A MAC address, or the bytes of a client identifier as 0x….', null, 'mac');
        }
        if ($client->mac !== null) {
            Identifiers::mac($ledger, (string) $client->mac);
        }

        return self::write($ledger, $scope, $address, $client, $name, null, $row);
    }

    public static function write(
        Ledger $ledger,
        Scope $scope,
        Address $address,
        ClientKey $client,
        string $name,
        ?string $host,
        ?Reservation $row = null,
    ): Reservation {
        $net = $scope->prefix->prefix();
        if (! $net->usable()->contains($address)) {
            $ledger->refuse(
                'reservation-outside',
                "$address is not a usable address of $net",
                field: 'address',
                link: at('lease.scope', $scope->id),
            );
        }
        self::refuseTwice($ledger, $scope, $address, $client, $row);
        self::sayElsewhere($ledger, $client, $row);
        self::sayLeased($ledger, $scope, $address, $client);
        $owner = $host === null
            ? Host::query()->where('space_id', $scope->prefix->space_id)->where('family', 4)->where('address', $address->bytes)->first()
            : null;
        if ($owner !== null && $owner->mac !== null && $client->mac !== null && ! $owner->mac->equals($client->mac)) {
            $ledger->warn(
                'other-host',
                "{$owner->line()} is planned with $owner->mac",
                'The reservation is for another device.',
                null,
                'mac',
            );
        }
        $reservation = ($row ?? new Reservation)->fill([
            'scope_id' => $scope->id, 'address' => $address, 'mac' => $client->mac, 'client_id' => $client->identifier, 'name' => $name,
            'address_id' => $host ?? $owner?->id,
        ]);
        $reservation->save();
        $ledger->passed('one-reservation', 'The client and the address are reserved once');

        return $reservation;
    }

    private static function refuseTwice(Ledger $ledger, Scope $scope, Address $address, ClientKey $client, ?Reservation $row): void
    {
        $same = Reservation::query()->where('scope_id', $scope->id)->when($row, fn ($q) => $q->whereKeyNot($row?->id))
            ->where(
                fn ($q) => $q->where('address', $address->bytes)
                    ->when($client->mac, fn ($w, $mac) => $w->orWhere('mac', $mac->bytes))
                    ->when($client->identifier, fn ($w, $id) => $w->orWhere('client_id', $id)),
            )->first();
        if ($same === null) {
            return;
        }
        $page = at('lease.scope', $scope->id);
        $same->address->equals($address)
            ? $ledger->refuse(
                'address-reserved',
                "$address is reserved for {$same->client()}",
                'Choose another address.',
                null,
                'address',
                $page,
            )
            : $ledger->refuse(
                'mac-reserved',
                "$client already has $same->address reserved here",
                'One client has one reservation in a scope.',
                null,
                'mac',
                $page,
            );
    }

    private static function sayElsewhere(Ledger $ledger, ClientKey $client, ?Reservation $row): void
    {
        // Only where the person may look: of other people's clients nothing is told.
        $seen = $ledger->person === null ? Scope::query() : Reach::of($ledger->person)->scopes();
        $elsewhere = Reservation::query()->with('scope')->when($row, fn ($q) => $q->whereKeyNot($row?->id))
            ->where($client->mac !== null ? 'mac' : 'client_id', $client->mac !== null ? $client->mac->bytes : $client->identifier)
            ->whereIn('scope_id', $seen->select('scopes.id'))->first();
        if ($elsewhere !== null) {
            $ledger->warn(
                'mac-elsewhere',
                "$client is also reserved in {$elsewhere->scope->name}",
                'That is right for a device that moves between subnets.',
                null,
                'mac',
                at('lease.scope', $elsewhere->scope_id),
            );
        }
    }

    private static function sayLeased(Ledger $ledger, Scope $scope, Address $address, ClientKey $client): void
    {
        $lease = InUse::activeLeases()->where('address', $address->bytes)->where('scope_id', $scope->id)->first();
        if ($lease !== null && ($client->mac === null || $lease->mac?->equals($client->mac) !== true)) {
            $ledger->warn(
                'leased-to-another',
                "$address is leased to ".($lease->mac ?? 'a client without a MAC').' until '.$lease->ends_at->format('j M H:i'),
                'The server gives it to the new client only when that lease has ended.',
                null,
                'address',
            );
        }
    }
}
