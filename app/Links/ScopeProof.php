<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\Lease;
use App\Models\Pair;
use App\Models\Reservation;
use App\Models\Scope;
use App\Models\ScopeRange;
use App\Models\Server;
use App\Queries\InUse;
use App\Queries\OptionLayers;
use App\Queries\OwnOptions;
use App\Queries\SharedLinks;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\MacAddress;

/** An IPv4 scope proved by packets through its relay address: the options by an INFORM, the addresses by an offer taken and given back. */
final readonly class ScopeProof
{
    /** From the documentation block of RFC 7042 §2.1.2. */
    public const PROBE = '00:00:5e:00:53:fe';

    public function __construct(private Server $server, private DhcpClient $dhcp, private StandinPairs $pairs)
    {
    }

    /**
     * @return string what was asked and answered, for people
     *
     * @throws Unanswered
     */
    public function of(Scope $scope): string
    {
        $net = $scope->prefix->prefix();
        $relay = $scope->prefix->gateway ?? $net->usable()->first;
        $inform = Packet::fromClient(
            MessageType::Inform,
            random_int(1, 0xFFFFFFFF),
            MacAddress::parse(self::PROBE),
            [],
            $relay,
            $net->usable()->last,
        );
        [$answer] = $this->dhcp->exchange($inform);
        if ($answer->type() !== MessageType::Ack) {
            throw Unanswered::refused(
                $this->server->name,
                'an INFORM for '.$scope->name.' got '.($answer->type()?->label() ?? 'no message type'),
            );
        }
        $classes = app(OptionLayers::class)->classesOf($inform);
        $meant = [OptionTable::MASK => $net->mask()->bytes] + ScopeForm::payloads($scope, $this->server, $classes);
        foreach ($meant as $code => $payload) {
            if (($answer->options[$code] ?? null) !== $payload) {
                throw Unanswered::differs(
                    $this->server->name,
                    "option $code of $scope->name is meant to be "
                        .OwnOptions::now()->meaning($code, $payload)
                        .', it answers '
                        .(isset($answer->options[$code]) ? OwnOptions::now()->meaning($code, $answer->options[$code]) : 'nothing'),
                );
            }
        }

        return sprintf(
            'INFORM through %s answered, %d options right; %s',
            $relay,
            count($meant),
            $this->offer($scope, $relay),
        );
    }

    /** An address of the server's share is offered to a client of our own, taken and given back. */
    private function offer(Scope $scope, Address $relay): string
    {
        $own = $scope->ranges->filter(fn ($r): bool => $r->server_id === null || $r->server_id === $this->server->id);
        // A client of ours is in no class, so what is kept for one is not offered to it.
        $share = $own->filter(fn (ScopeRange $r): bool => $r->class_only !== true)->map(fn ($r): AddressRange => $r->range());
        if ($share->isEmpty()) {
            return $own->isEmpty() ? 'no range, so nothing is offered' : 'its ranges are kept for classes, so nothing is offered';
        }
        $holdsBack = $scope->pair === null ? null : $this->pairs->holdsBack($scope->pair, $scope->id);
        if ($holdsBack !== null) {
            return "nobody new is given an address: $holdsBack";
        }
        $client = MacAddress::fromBytes("\x02\x00\x5e\x00".random_bytes(2));
        $common = [OptionTable::CLIENT_ID => "\1".$client->bytes];
        $unused = $this->unused($scope, $share);
        $wish = $unused === null ? [] : [OptionTable::REQUESTED_ADDRESS => $unused->bytes];
        $xid = random_int(1, 0xFFFFFFFF);
        try {
            // In a pair the other one may be the one to answer: who has asked in vain for some seconds is answered by both.
            [$offer] = $this->dhcp->exchange(
                Packet::fromClient(MessageType::Discover, $xid, $client, $wish + $common, $relay)
                    ->askingFor($scope->pair === null ? 0 : 10),
            );
        } catch (Unanswered $e) {
            $size = $share->sum(fn (AddressRange $r): int => $r->size()->toInt());
            $taken = InUse::activeLeases()->where('server_id', $this->server->id)->where('scope_id', $scope->id)->count();

            return $taken >= $size
                ? 'no offer: its share is leased to the last address'
                : throw Unanswered::differs(
                    $this->server->name,
                    "a client of ours got no offer from $scope->name, although $taken of $size addresses are leased",
                );
        }
        if ($this->isBeside($scope, $offer->yourAddress)) {
            return "its share is leased to the last address; $offer->yourAddress of another subnet on the link was offered";
        }
        $time = $offer->options[OptionTable::LEASE_TIME] ?? '';
        if (
            ! $share->contains(fn (AddressRange $r): bool => $r->contains($offer->yourAddress))
                || $scope->exclusions->contains(fn ($x): bool => $x->range()->contains($offer->yourAddress))
        ) {
            throw Unanswered::differs($this->server->name, "it offered $offer->yourAddress, which is outside its share of $scope->name");
        }
        $seconds = strlen($time) === 4 ? (int) (unpack('N', $time) ?: [1 => 0])[1] : 0;
        $right = $scope->pair === null
            ? $seconds === $scope->lease_time
            : $seconds > 0 && $seconds <= max($scope->pair->lead, $scope->lease_time);
        if (! $right) {
            throw Unanswered::differs($this->server->name, "it offers a lease of another time than $scope->name has");
        }
        $server = $offer->options[OptionTable::SERVER_ID] ?? '';
        [$ack] = $this->dhcp->exchange(
            Packet::fromClient(
                MessageType::Request,
                $xid,
                $client,
                [OptionTable::REQUESTED_ADDRESS => $offer->yourAddress->bytes, OptionTable::SERVER_ID => $server] + $common,
                $relay,
            ),
        );
        if ($ack->type() !== MessageType::Ack || ! $ack->yourAddress->equals($offer->yourAddress)) {
            throw Unanswered::differs($this->server->name, "it offered $offer->yourAddress and did not give it");
        }
        $this->dhcp->tell(
            Packet::fromClient(MessageType::Release, $xid, $client, [OptionTable::SERVER_ID => $server] + $common, null, $ack->yourAddress),
        );

        return "$ack->yourAddress offered, taken and given back";
    }

    /** On a link with several subnets one that is full is followed by the next: true only where it is known to be full. */
    private function isBeside(Scope $scope, Address $offered): bool
    {
        if ($scope->prefix->prefix()->contains($offered)) {
            return false;
        }
        $own = $scope->ranges->filter(fn ($r): bool => $r->server_id === null || $r->server_id === $this->server->id);
        $size = $own->sum(fn (ScopeRange $r): int => $r->range()->size()->toInt());

        return InUse::activeLeases()->where('server_id', $this->server->id)->where('scope_id', $scope->id)->count() >= $size
            && app(SharedLinks::class)->neighbours($scope)->contains(fn (Scope $s): bool => $s->prefix->prefix()->contains($offered));
    }

    /**
     * An address of the share that nobody is known to use, from its end: a server that was rebuilt does not know whose the first ones are.
     *
     * @param  \Illuminate\Support\Collection<int, AddressRange>  $share
     */
    private function unused(Scope $scope, \Illuminate\Support\Collection $share): ?Address
    {
        $taken = Lease::query()->where('scope_id', $scope->id)->where('ends_at', '>', now())->pluck('address')
            ->merge($scope->reservations->map(fn (Reservation $r): Address => $r->address))
            ->mapWithKeys(fn (Address $a): array => [$a->bytes => true]);
        foreach ($share->reverse() as $range) {
            for ($at = $range->last, $tries = 0; $at !== null && $range->contains($at) && $tries < 256; $at = $at->plus(-1), $tries++) {
                if (! isset($taken[$at->bytes]) && ! $scope->exclusions->contains(fn ($x): bool => $x->range()->contains($at))) {
                    return $at;
                }
            }
        }

        return null;
    }
}
