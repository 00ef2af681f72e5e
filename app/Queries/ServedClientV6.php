<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Reservation;
use App\Models\Scope;
use App\Models\ScopeDelegation;
use App\Models\ScopeRange;
use App\Models\ScopeServer;
use App\Models\Server;
use App\Models\Stage;
use HarborPost\Core\Dhcp\Option\OptionStack;
use HarborPost\Core\Dhcp\V6\Association;
use HarborPost\Core\Dhcp\V6\ClientSketch;
use HarborPost\Core\Dhcp\V6\Code;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Exchange\V6\Choice;
use HarborPost\Core\Exchange\V6\Reserved;
use HarborPost\Core\Exchange\V6\Terms;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use Illuminate\Support\Carbon;

/**
 * What a client would be given in a scope of IPv6 by each of its servers: by the same rules that a server goes by, from the plan and from
 * the leases as they were last read.
 */
final readonly class ServedClientV6
{
    /**
     * @param  list<array{server: Server, silent: ?string, stack: OptionStack, preference: int,
     *     parts: list<array{wish: Association, choice: Choice}>}>  $servers
     */
    private function __construct(public Address $relay, public ClientSketch $client, public array $servers)
    {
    }

    /** @param  list<string>  $down  servers that are taken to be out of service */
    public static function of(Scope $scope, ClientSketch $client, array $down = []): self
    {
        $layers = app(OptionLayers::class);
        $reservation = $scope->reservations->first(static fn (Reservation $r): bool => $r->client_id === $client->duid->bytes);
        $servers = [];
        foreach ($scope->placements->sortBy('server.name') as $placement) {
            $stack = $layers->of($scope, $placement->server, [], $reservation);
            $terms = self::terms($scope, $placement->server, $stack);
            $held = HeldV6::of($scope, $placement->server);
            $parts = [];
            foreach ($client->wishes() as $wish) {
                $parts[] = ['wish' => $wish, 'choice' => Choice::of($terms, $held, $client->duid, $wish, Carbon::now()->getTimestamp())];
            }
            $servers[] = [
                'server' => $placement->server, 'silent' => self::silent($scope, $placement, $down), 'stack' => $stack,
                'preference' => ord($stack->payloads()[Code::PREFERENCE] ?? "\0"), 'parts' => $parts,
            ];
        }

        return new self($scope->prefix->gateway ?? $scope->prefix->prefix()->usable()->first, $client, $servers);
    }

    /** What the server goes by in this scope. */
    private static function terms(Scope $scope, Server $server, OptionStack $stack): Terms
    {
        $own = static fn (ScopeRange|ScopeDelegation $r): bool => $r->server_id === null || $r->server_id === $server->id;

        return new Terms(
            $scope->prefix->prefix(),
            array_values($scope->ranges->filter($own)->map(static fn (ScopeRange $r) => $r->range())->all()),
            array_values($scope->exclusions->map(static fn ($x) => $x->range())->all()),
            array_values($scope->delegations->filter($own)->map(static fn (ScopeDelegation $d) => $d->delegation())->all()),
            array_values($scope->reservations->map(static fn (Reservation $r): ?Reserved => self::reserved($r))->filter()->all()),
            $stack->payloads(),
            $scope->preferred(),
            $scope->lease_time,
            $scope->rapid_commit,
        );
    }

    private static function reserved(Reservation $r): ?Reserved
    {
        $client = Duid::tryFrom((string) $r->client_id);

        return $client === null ? null : new Reserved($client, $r->iaid < 0 ? null : $r->iaid, $r->net());
    }

    /** @return list<string> names of the servers that would answer */
    public function answering(): array
    {
        return array_column(array_map(
            static fn (array $s): array => ['name' => $s['server']->name],
            array_filter($this->servers, static fn (array $s): bool => $s['silent'] === null),
        ), 'name');
    }

    /** The server that a client takes by itself (RFC 8415 §18.2.9): the most preferred one, and among these the one that gives most. */
    public function taken(): ?Server
    {
        $best = null;
        $given = static fn (array $s): int => count(array_filter($s['parts'], static fn (array $p): bool => $p['choice']->net !== null));
        foreach ($this->servers as $one) {
            $better = $best === null || [$one['preference'], $given($one)] > [$best['preference'], $given($best)];
            $best = $one['silent'] === null && $better ? $one : $best;
        }

        return $best['server'] ?? null;
    }

    /** @return list<string> code and name of what the client asks for and nobody has set */
    public function without(OptionStack $stack): array
    {
        $none = array_diff($this->client->asked, array_keys($stack->payloads()));

        $book = OwnOptions::now();

        return array_map(static fn (int $code): string => "$code ".$book->definition($code, Family::V6)->name, array_values($none));
    }

    /** @param  list<string>  $down */
    private static function silent(Scope $scope, ScopeServer $placement, array $down): ?string
    {
        $name = $placement->server->name;

        return match (true) {
            in_array($placement->server_id, $down, true) => "$name is taken to be out of service",
            $scope->stage === Stage::Planned => 'the scope is planned, so no server has it',
            $placement->shipped_at === null => "this scope is not on $name yet: ship it",
            default => null,
        };
    }
}
