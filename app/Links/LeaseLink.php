<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\Pair;
use App\Models\Scope;
use App\Models\ScopeServer;
use App\Models\Server;
use App\Models\Stage;
use App\Queries\Inherited;
use HarborPost\Core\Net\Address;

/**
 * A server of leases, a stand-in or what an agent stands in front of: scopes go over the control channel, are read back, and are proved by
 * packets through the relay address, where it lets them through.
 */
final readonly class LeaseLink implements Link
{
    public function __construct(
        private Server $server,
        private ControlChannel $channel,
        private DhcpClient $dhcp,
        private RelayedClient $relayed,
    ) {
    }

    public function compare(bool $deep = false): array
    {
        $pairs = $this->channel->does('pairs') ? $this->pairs()->compare() : $this->pairs()->waiting();
        $running = [];
        foreach ((array) ($this->channel->ask('scopes')['scopes'] ?? []) as $form) {
            if (is_array($form)) {
                $running[(string) ($form['id'] ?? '')] = ScopeForm::whole($form);
            }
        }
        // A pair is there before its scopes come, and goes after they went.
        $differences = array_values(array_filter($pairs, static fn (Difference $d): bool => $d->state !== DifferenceState::Gone));
        $placements = ScopeServer::query()->where('server_id', $this->server->id)->get()->keyBy('scope_id');
        foreach (self::placed($this->server) as $scope) {
            $form = ScopeForm::of($scope, $this->server);
            $has = $running[$scope->id] ?? null;
            unset($running[$scope->id]);
            $lacks = $scope->stage === Stage::Planned ? [] : $this->lacks($form);
            $differences[] = $lacks === []
                ? $this->difference($scope, $form, $has, $placements[$scope->id] ?? null)
                : new Difference('scope', $scope->id, $scope->line(), DifferenceState::Waiting, message: self::lacking($lacks));
        }
        foreach ($running as $id => $form) {
            $lines = ScopeForm::lines($form);
            $differences[] = new Difference(
                'scope',
                (string) $id,
                "{$form['name']}, {$form['subnet']}",
                DifferenceState::Gone,
                $lines,
                [],
                count($lines),
                0,
                'the plan does not place this scope here',
                drifted: true,
            );
        }

        return [...$differences, ...array_filter($pairs, static fn (Difference $d): bool => $d->state === DifferenceState::Gone)];
    }

    private function pairs(): StandinPairs
    {
        return new StandinPairs($this->server, $this->channel);
    }

    public function apply(string $kind, string $id): void
    {
        if ($kind === 'pair') {
            $this->pairs()->apply($id);

            return;
        }
        $scope = self::placed($this->server, $id)->first();
        $scope === null
            || $scope->stage === Stage::Planned
                ? $this->channel->ask('cut', ['id' => $id])
                : $this->put($scope);
    }

    /**
     * What a scope needs that not every agent does.
     *
     * @param  array<string, mixed>  $form
     * @return list<string>
     */
    private function lacks(array $form): array
    {
        $needs = array_keys(array_filter([
            'scopes' => true, 'v6' => ($form['family'] ?? 4) === 6,
            'classes' => ($form['classes'] ?? []) !== [] || ($form['kept'] ?? []) !== [], 'link' => isset($form['link']),
            'probe' => isset($form['probe']), 'pairs' => isset($form['pair']), 'names' => isset($form['names']),
        ]));

        return array_values(array_filter($needs, fn (string $what): bool => ! $this->channel->does($what)));
    }

    /** @param  list<string>  $lacks */
    private static function lacking(array $lacks): string
    {
        $words = [
            'scopes' => 'scopes', 'v6' => 'IPv6', 'classes' => 'classes of clients', 'link' => 'links of several subnets',
            'probe' => 'probing', 'pairs' => 'pairs', 'names' => 'names of leases',
        ];

        return 'its agent does not do '.implode(', ', array_map(static fn (string $l): string => $words[$l], $lacks));
    }

    /** The key that signs its updates is there before the scope; it is in no form that is read back. */
    private function put(Scope $scope): void
    {
        if ($scope->name_who !== null && $scope->nameKey !== null) {
            $this->channel->ask('key-put', $scope->nameKey->told());
        }
        $form = ScopeForm::of($scope, $this->server);
        $lacks = $this->lacks($form);
        $lacks === [] ?: throw Unanswered::unasked($this->server->name, self::lacking($lacks));
        $this->channel->ask('put', ['scope' => $form]);
    }

    /** Read back as a whole, then proved by packets: the options by an INFORM, the addresses by an offer that is taken and given back. */
    public function verify(string $kind, string $id): string
    {
        if ($kind === 'pair') {
            return $this->pairs()->verify($id);
        }
        $scope = self::placed($this->server, $id)->first();
        $running = $this->running($id);
        if ($scope === null || $scope->stage === Stage::Planned) {
            return $running === null
                ? 'read back: the scope is gone from the server'
                : throw Unanswered::differs($this->server->name, "it still has the scope {$running['name']}");
        }
        $form = ScopeForm::of($scope, $this->server);
        $left = $running === null
            ? ['the whole scope']
            : [...array_diff(ScopeForm::lines($running), ScopeForm::lines($form)),
                ...array_diff(ScopeForm::lines($form), ScopeForm::lines($running))];
        if ($left !== []) {
            throw Unanswered::differs(
                $this->server->name,
                "read back, $scope->name still differs: ".implode('; ', array_slice($left, 0, 6)),
            );
        }

        if (! $this->channel->does('packets')) {
            return 'read back and equal; its agent lets no packets through, so no client was played';
        }

        return 'read back and equal; '.($scope->prefix->family === 6
            ? (new ScopeProofV6($this->server, $this->relayed))->of($scope)
            : (new ScopeProof($this->server, $this->dhcp, $this->pairs()))->of($scope));
    }

    public function proves(string $kind, string $id): bool
    {
        return $this->channel->does('packets');
    }

    /** @return array<string, mixed>|null the scope as the server runs it */
    public function running(string $id): ?array
    {
        foreach ((array) ($this->channel->ask('scopes')['scopes'] ?? []) as $form) {
            if (is_array($form) && ($form['id'] ?? null) === $id) {
                return ScopeForm::whole($form);
            }
        }

        return null;
    }

    /** @return \Illuminate\Support\Collection<int, Scope> those that a server is to have, or the one that is named */
    public static function placed(Server $server, ?string $only = null): \Illuminate\Support\Collection
    {
        $scopes = ScopeServer::query()
            ->with(
                [
                    'scope.prefix',
                    'scope.placements',
                    'scope.ranges',
                    'scope.exclusions',
                    'scope.delegations',
                    'scope.reservations.optionValues',
                    'scope.optionValues',
                    'scope.pair.first',
                    'scope.pair.second',
                    'scope.nameZone.placements.server',
                    'scope.nameZone.view',
                    'scope.nameKey',
                ],
            )
            ->where('server_id', $server->id)->when($only !== null, static fn ($q) => $q->where('scope_id', $only))
            ->get()->map(fn (ScopeServer $p): Scope => $p->scope);
        app(Inherited::class)->ahead($scopes->pluck('prefix'));

        return $scopes;
    }

    /**
     * @param  array<string, mixed>  $form
     * @param  array<string, mixed>|null  $has
     */
    private function difference(Scope $scope, array $form, ?array $has, ?ScopeServer $placement): Difference
    {
        $title = $scope->line();
        if ($scope->stage === Stage::Planned) {
            return new Difference(
                'scope',
                $scope->id,
                $title,
                $has === null ? DifferenceState::Waiting : DifferenceState::Gone,
                $has === null ? [] : ScopeForm::lines($has),
                [],
                0,
                0,
                'planned, so it is not on servers',
            );
        }
        $meant = ScopeForm::lines($form);
        $runs = $has === null ? [] : ScopeForm::lines($has);
        $added = array_values(array_diff($meant, $runs));
        $removed = array_values(array_diff($runs, $meant));
        $equal = $has !== null && $added === [] && $removed === [];
        $asShipped = $placement !== null && ScopeForm::digestOf($form) === $placement->shipped_digest;
        // A shipment that was ended between the writing and the proof left the right scope there, and no proof of it.
        $proved = $asShipped && $placement->verified_at !== null;
        $state = $has === null ? DifferenceState::New : ($equal && $proved ? DifferenceState::Same : DifferenceState::Differs);
        $message = match (true) {
            $has === null => $asShipped ? 'it was shipped here and is not there any more' : 'not on this server yet',
            $equal && ! $proved => 'it runs as meant, and nothing has proved it yet',
            default => '',
        };

        return new Difference(
            'scope',
            $scope->id,
            $title,
            $state,
            array_slice($removed, 0, Difference::LISTED),
            array_slice($added, 0, Difference::LISTED),
            count($removed),
            count($added),
            $message,
            drifted: $asShipped && ! $equal,
        );
    }
}
