<?php

declare(strict_types=1);

namespace App\Domain\Lease;

use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Host;
use App\Models\Lease;
use App\Models\Reservation;
use App\Models\Scope;
use App\Queries\InUse;
use HarborPost\Core\Dhcp\V6\Client;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix;

/** An address or a prefix that a client of DHCPv6 always gets, known by its DUID. */
final class ReservationsV6
{
    /** What was typed: an address, or a prefix with its length; and the client by its DUID. */
    public static function typed(
        Ledger $ledger,
        Scope $scope,
        string $given,
        string $client,
        string $name,
        ?Reservation $row = null,
    ): Reservation {
        try {
            $net = str_contains($given, '/') ? Prefix::parse(trim($given)) : Address::parse(trim($given))->in(128);
        } catch (NotUnderstood $e) {
            $ledger->refuse('bad-address', $e->getMessage(), field: 'address');
        }
        try {
            $known = Client::parse($client);
        } catch (NotUnderstood $e) {
            $ledger->refuse('bad-duid', $e->getMessage(), 'A DUID such as 00:03:00:01:00:00:5e:00:53:17.', 'RFC 8415 §11', 'mac');
        }

        return self::write($ledger, $scope, $net, $known, $name, $row);
    }

    public static function write(
        Ledger $ledger,
        Scope $scope,
        Prefix $net,
        Client $client,
        string $name,
        ?Reservation $row = null,
    ): Reservation {
        Guard::own("reservations:$scope->id");
        self::refusePlace($ledger, $scope, $net);
        self::refuseTwice($ledger, $scope, $net, $client, $row);
        $lease = self::leased($net, $scope, $client);
        if ($lease !== null) {
            $ledger->warn(
                'leased-to-another',
                "{$lease->given()} is leased to {$lease->client()} until ".$lease->ends_at->format('j M H:i'),
                'The server gives it to the new client only when that lease has ended.',
                null,
                'address',
            );
        }
        $owner = $net->length < 128
            ? null
            : Host::query()->where('space_id', $scope->prefix->space_id)->where('family', 6)->where('address', $net->first->bytes)->first();
        $reservation = ($row ?? new Reservation)->fill([
            'scope_id' => $scope->id, 'address' => $net->first, 'mac' => null, 'client_id' => $client->duid->bytes,
            'iaid' => $client->iaid ?? -1, 'length' => $net->length === 128 ? 0 : $net->length, 'name' => $name,
            'address_id' => $owner?->id,
        ]);
        $reservation->save();
        $ledger->passed('one-reservation', 'The client and what it gets are reserved once');

        return $reservation;
    }

    private static function refusePlace(Ledger $ledger, Scope $scope, Prefix $net): void
    {
        $link = $scope->prefix->prefix();
        if ($net->length === 128 && ! $link->usable()->contains($net->first)) {
            $ledger->refuse('reservation-outside', "$net->first is not a usable address of $link", field: 'address',
                link: at('lease.scope', $scope->id));
        }
        if ($net->length < 128 && ($net->family()->value !== 6 || $net->overlaps($link))) {
            $ledger->refuse(
                'delegation-on-link',
                "$net cannot be delegated on $link",
                'A router is delegated space of its own, behind it and not on the link.',
                'RFC 8415 §6.3',
                'address',
            );
        }
        if ($net->equals($scope->prefix->gateway?->in(128) ?? $link)) {
            $ledger->refuse('reservation-outside', "$net->first is the gateway of $link", field: 'address');
        }
    }

    private static function refuseTwice(Ledger $ledger, Scope $scope, Prefix $net, Client $client, ?Reservation $row): void
    {
        $page = at('lease.scope', $scope->id);
        foreach (Reservation::query()->where('scope_id', $scope->id)->when($row, fn ($q) => $q->whereKeyNot($row?->id))->get() as $other) {
            if ($other->net()->overlaps($net)) {
                $ledger->refuse(
                    'address-reserved',
                    "{$other->given()} is reserved for {$other->client()}",
                    'Choose another address.',
                    null,
                    'address',
                    $page,
                );
            }
            $same = $other->client_id === $client->duid->bytes && $other->iaid === ($client->iaid ?? -1);
            if ($same && ($other->length === 0) === ($net->length === 128)) {
                $ledger->refuse(
                    'mac-reserved',
                    "$client already has {$other->given()} reserved here",
                    'One client has one reservation of a kind; a second association of it is told apart by "iaid 7".',
                    null,
                    'mac',
                    $page,
                );
            }
        }
    }

    private static function leased(Prefix $net, Scope $scope, Client $client): ?Lease
    {
        return InUse::activeLeases()->where('scope_id', $scope->id)->whereRaw('LENGTH(address) = 16')
            ->whereBetween('address', [$net->first->bytes, $net->last()->bytes])
            ->where(fn ($q) => $q->whereNull('client_id')->orWhere('client_id', '!=', $client->duid->bytes))->first();
    }
}
