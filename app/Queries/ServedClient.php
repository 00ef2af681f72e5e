<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\ClientClass;
use App\Models\Lease;
use App\Models\PairMode;
use App\Models\Reservation;
use App\Models\Scope;
use App\Models\ScopeRange;
use App\Models\ScopeServer;
use App\Models\Server;
use App\Models\Stage;
use HarborPost\Core\Dhcp\Client\ClientSketch;
use HarborPost\Core\Dhcp\Option\OptionStack;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Exchange\LinkOrder;
use HarborPost\Core\Exchange\Pair\LoadBalance;
use HarborPost\Core\Exchange\Pair\Side;
use HarborPost\Core\Net\Address;

/** What a client would be given in a scope by each of its servers, computed from the plan and from the leases as they were last read. */
final readonly class ServedClient
{
    /** Options that a server computes for each client. */
    private const COMPUTED = [
        OptionTable::MASK,
        OptionTable::LEASE_TIME,
        OptionTable::SERVER_ID,
        OptionTable::RENEWAL,
        OptionTable::REBINDING,
    ];

    private function __construct(
        public Packet $packet,
        public Address $relay,
        /** @var list<array{class: ClientClass, holds: bool, why: list<array{words: string, seen: ?string, holds: bool}>}> */
        public array $classes,
        public ?Reservation $reservation,
        /** @var list<array{server: Server, scope: Scope, silent: ?string, address: ?Address, why: string, stack: OptionStack}> */
        public array $servers,
    ) {
    }

    /** @param  list<string>  $down  servers that are taken to be out of service */
    public static function of(Scope $scope, ClientSketch $client, array $down = []): self
    {
        $relay = $scope->prefix->gateway ?? $scope->prefix->prefix()->usable()->first;
        $packet = $client->discover(1, $relay);
        $layers = app(OptionLayers::class);
        $in = $layers->classesOf($packet);
        $beside = app(SharedLinks::class)->neighbours(
            $scope,
            ['placements.server', 'ranges', 'exclusions', 'reservations.optionValues', 'optionValues', 'pair.first', 'pair.second'],
        );
        $link = [$scope, ...array_values($beside->all())];
        $servers = [];
        foreach ($scope->placements->sortBy('server.name') as $placement) {
            [$from, $address, $why] = self::onLink($link, $placement->server, $client, $in);
            $own = self::reservationIn($from, $client);
            $placed = $from->placements->firstWhere('server_id', $placement->server_id) ?? $placement;
            $silent = self::silent($from, $placed, $down, $address, $why, $packet->clientKey(), $own?->address);
            $servers[] = [
                'server' => $placement->server, 'scope' => $from, 'silent' => $silent,
                'address' => $address, 'why' => $why, 'stack' => $layers->of($from, $placement->server, $in, $own),
            ];
        }

        return new self(
            $packet,
            $relay,
            array_values($layers->classes()->map(static fn (ClientClass $c): array => [
                'class' => $c, 'holds' => in_array($c, $in, true), 'why' => $c->rules()->why($packet),
            ])->all()),
            self::reservationIn($servers[0]['scope'] ?? $scope, $client),
            $servers,
        );
    }

    private static function reservationIn(Scope $scope, ClientSketch $client): ?Reservation
    {
        $key = $client->key();

        return $scope->reservations->first(
            static fn (Reservation $r): bool => $key->mac !== null
                ? $r->mac?->equals($key->mac) === true
                : $r->client_id === $key->identifier,
        );
    }

    /**
     * Where the link carries several subnets, they are gone through until one has an address.
     *
     * @param  non-empty-list<Scope>  $link  the relay's own first
     * @param  list<ClientClass>  $classes
     * @return array{Scope, ?Address, string}
     */
    private static function onLink(array $link, Server $server, ClientSketch $client, array $classes): array
    {
        $here = array_values(array_filter(
            $link,
            static fn (Scope $s): bool => $s->id === $link[0]->id
                || $s->placements->contains(static fn (ScopeServer $p): bool => $p->server_id === $server->id && $p->shipped_at !== null),
        ));
        $order = LinkOrder::of(
            $here,
            static fn (Scope $s): bool => self::reservationIn($s, $client) !== null,
            static fn (Scope $s): bool => self::before($s, $server, $client) !== null,
            static fn (Scope $s): bool => $client->requested !== null && $s->prefix->prefix()->contains($client->requested),
        );
        $first = null;
        foreach ($order as $scope) {
            [$address, $why] = self::address($scope, $server, $client, self::reservationIn($scope, $client), $classes);
            $first ??= $why;
            if ($address !== null) {
                $full = $scope->id !== $link[0]->id && $scope->id !== $order[0]->id ? "$first; " : '';

                return [$scope, $address, $scope->id === $link[0]->id ? $why : "$full$why, in {$scope->prefix->prefix()} on the same link"];
            }
        }

        return [$link[0], null, $first.(count($here) > 1 ? ', and so it is in each other subnet of the link' : '')];
    }

    private static function before(Scope $scope, Server $server, ClientSketch $client): ?Lease
    {
        return Lease::query()->where('server_id', $server->id)->where('scope_id', $scope->id)->where('mac', $client->mac->bytes)
            ->whereNull('gone_at')->orderByDesc('starts_at')->first();
    }

    /** @return list<string> names of the servers that would answer */
    public function answering(): array
    {
        return array_map(
            static fn (array $s): string => $s['server']->name,
            array_values(array_filter($this->servers, static fn (array $s): bool => $s['silent'] === null)),
        );
    }

    /** @return list<int> codes that the client asks for; none: it does not say */
    public function asked(): array
    {
        $asked = $this->packet->options[OptionTable::PARAMETERS] ?? '';

        return $asked === '' ? [] : array_map(ord(...), str_split($asked));
    }

    /** @return list<string> code and name of what the client asks for and nobody has set */
    public function without(OptionStack $stack): array
    {
        $there = $stack->payloads();
        $none = array_filter(
            $this->asked(),
            static fn (int $code): bool => ! in_array($code, self::COMPUTED, true) && ! isset($there[$code]),
        );

        return array_map(static fn (int $code): string => "$code ".OwnOptions::now()->definition($code)->name, array_values($none));
    }

    /** @param  list<string>  $down */
    private static function silent(
        Scope $scope,
        ScopeServer $placement,
        array $down,
        ?Address $address,
        string $why,
        string $key,
        ?Address $reserved,
    ): ?string {
        $name = $placement->server->name;

        return match (true) {
            in_array($placement->server_id, $down, true) => "$name is taken to be out of service",
            $scope->stage === Stage::Planned => 'the scope is planned, so no server has it',
            $placement->shipped_at === null => "this scope is not on $name yet: ship it",
            $address === null => $why,
            default => self::inPair($scope, $placement->server, $down, $key, $reserved),
        };
    }

    /**
     * While the servers of a pair hear each other, one of them answers a client that asks everybody.
     *
     * @param  list<string>  $down
     */
    private static function inPair(Scope $scope, Server $server, array $down, string $key, ?Address $reserved): ?string
    {
        $pair = $scope->pair;
        if ($pair === null || in_array($pair->partnerOf($server->id)->id, $down, true)) {
            return null;
        }
        $side = $reserved !== null ? $pair->terms()->owner($reserved) : $pair->terms()->answers($key);
        $whose = $pair->servers()[$side->value];

        return match (true) {
            $whose->id === $server->id => null,
            $reserved !== null => "the pair $pair->name gives $reserved from $whose->name",
            $pair->mode === PairMode::Standby => "it stands by for $whose->name in the pair $pair->name",
            default => sprintf('bucket %d of the pair %s is of %s (RFC 3074)', LoadBalance::bucket($key), $pair->name, $whose->name),
        };
    }

    /**
     * In the order of RFC 2131 §4.3.1: what is reserved, what the client had, what it asks for, the next free one.
     *
     * @param  list<ClientClass>  $classes
     * @return array{?Address, string} null with the cause
     */
    private static function address(Scope $scope, Server $server, ClientSketch $client, ?Reservation $reservation, array $classes): array
    {
        $held = self::held($scope, $server);
        $own = (string) $client->mac;
        $free = static fn (Address $a): bool => ! isset($held[$a->bytes]) || $held[$a->bytes] === $own;
        if ($reservation !== null) {
            if ($free($reservation->address)) {
                return [$reservation->address, 'reserved for it'];
            }
            $instead = "reserved is $reservation->address, which {$held[$reservation->address->bytes]} still has; ";
        }
        $instead ??= '';
        $open = self::open($scope, $server, $classes);
        $reserved = $scope->reservations->keyBy(static fn (Reservation $r): string => $r->address->bytes);
        $side = $scope->pair?->first_id === $server->id ? Side::First : Side::Second;
        $usable = static fn (Address $a): bool => ($scope->pair === null || $scope->pair->terms()->owner($a) === $side)
            && $open->contains(static fn (ScopeRange $r): bool => $r->range()->contains($a))
            && ! $scope->exclusions->contains(static fn ($x): bool => $x->range()->contains($a))
            && (! $reserved->has($a->bytes) || $reserved[$a->bytes]?->id === $reservation?->id)
            && $free($a);
        $before = self::before($scope, $server, $client);
        if ($before !== null && $usable($before->address)) {
            return [$before->address, $instead."it had it before, last from {$before->starts_at->format('j M H:i')}"];
        }
        if ($client->requested !== null && $usable($client->requested)) {
            return [$client->requested, $instead.'it asks for it'];
        }
        foreach ($open as $range) {
            for ($at = $range->first; $at !== null && $range->range()->contains($at); $at = $at->next()) {
                if ($usable($at)) {
                    return [$at, "{$instead}the next free one of {$range->range()}"];
                }
            }
        }

        return [null, self::exhausted($scope, $server, $open->isEmpty())];
    }

    private static function exhausted(Scope $scope, Server $server, bool $closed): string
    {
        $share = $scope->ranges->filter(static fn (ScopeRange $r): bool => $r->server_id === null || $r->server_id === $server->id);

        return match (true) {
            $scope->ranges->isEmpty() => 'the scope has no range: only reservations are answered',
            $share->isEmpty() => "$server->name has no share of the ranges: it answers reservations only",
            $closed => "the ranges of $server->name are kept for classes that the client is not in",
            default => "every address of the share of $server->name is leased, reserved or kept out",
        };
    }

    /**
     * @param  list<ClientClass>  $classes
     * @return \Illuminate\Support\Collection<int, ScopeRange> ranges of the server that are open to the client
     */
    private static function open(Scope $scope, Server $server, array $classes): \Illuminate\Support\Collection
    {
        $in = array_map(static fn (ClientClass $c): string => $c->id, $classes);

        return $scope->ranges->toBase()->filter(
            static fn (ScopeRange $r): bool => ($r->server_id === null || $r->server_id === $server->id)
                && ($r->class_id === null || in_array($r->class_id, $in, true) === $r->class_only),
        );
    }

    /** @return array<string, string> bytes of an address → the client that has it now */
    private static function held(Scope $scope, Server $server): array
    {
        // In a pair each knows what the other one gave.
        return InUse::activeLeases()->when($scope->pair_id === null, fn ($q) => $q->where('server_id', $server->id))
            ->where('scope_id', $scope->id)->get(['address', 'mac'])
            ->mapWithKeys(static fn (Lease $l): array => [$l->address->bytes => (string) $l->mac])->all();
    }
}
