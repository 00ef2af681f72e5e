<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\Pairs;
use App\Domain\Lease\Scopes;
use App\Models\Pair;
use App\Models\Person;
use App\Models\Scope;

/** Scopes come into a pair, from shares or from one server; or they leave it, each server with a share. */
final readonly class PairScopes extends Act
{
    /** @param  list<string>  $scopes */
    public function __construct(
        #[Field(Kind::Ids, 'Scopes', of: Scope::class)]
        public array $scopes,
        #[Field(Kind::Id, 'Pair', 'Who leases them; none takes them out of their pair', of: Pair::class)]
        public string $pair = '',
    ) {
    }

    public function title(): string
    {
        $what = count($this->scopes) === 1 ? 'a scope' : count($this->scopes).' scopes';

        return $this->pair === '' ? "Take $what out of the pair" : "Bring $what into the pair "
            .(Pair::query()->find($this->pair)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return $this->pair === '' ? at('lease.coverage') : at('lease.pair', $this->pair);
    }

    public function apply(Ledger $ledger): void
    {
        $pair = Pairs::named($ledger, $this->pair);
        $scopes = Scopes::picked($ledger, $this->scopes, ['prefix', 'ranges', 'placements.server', 'pair.first', 'pair.second']);
        foreach ($scopes as $scope) {
            Scopes::refuseV6($ledger, $scope, 'pairs lease IPv4', 'scopes');
            if ($scope->pair_id === $pair?->id) {
                $ledger->refuse(
                    'pair-same',
                    $pair === null ? "$scope->name is in no pair" : "$scope->name is leased by $pair->name already",
                    field: 'scopes',
                    link: at('lease.scope', $scope->id),
                );
            }
            if ($scope->pair_id !== null && $pair !== null) {
                $ledger->refuse(
                    'in-pair',
                    "$scope->name is leased by the pair {$scope->pair?->name}",
                    'Take it out of that pair first, and ship that: an address must never be in two pairs at once.',
                    null,
                    'scopes',
                    at('lease.scope', $scope->id),
                );
            }
            $pair === null ? $this->leave($ledger, $scope) : Pairs::join($ledger, $scope, $pair);
        }
        $ledger->later(
            $pair === null
                ? 'A server lets a scope go only while it hears its partner, or was told that the partner is off'
                : 'Nobody new gets an address there from the first shipment until both servers have it; who has a lease keeps it',
        );
    }

    private function leave(Ledger $ledger, Scope $scope): void
    {
        if ($scope->pair !== null) {
            Pairs::leave($ledger, $scope, $scope->pair);
        }
    }
}
