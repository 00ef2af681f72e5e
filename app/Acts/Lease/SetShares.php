<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\Pairs;
use App\Domain\Lease\ScopeRanges;
use App\Domain\Lease\Scopes;
use App\Models\Person;
use App\Models\Scope;
use App\Models\ScopeRange;
use App\Models\ScopeServer;
use App\Models\Server;
use HarborPost\Core\Exchange\Shares;
use HarborPost\Core\Net\AddressRange;

/** The seam between the shares of a scope's servers is set, in one scope or in many; and how long the others hold their offers back. */
final readonly class SetShares extends Act
{
    /** @param  list<string>  $scopes */
    public function __construct(
        #[Field(Kind::Ids, 'Scopes', of: Scope::class)]
        public array $scopes,
        #[Field(Kind::Number, 'Share of the first server, in per cent', most: 99, least: 1)]
        public int $percent = 80,
        #[Field(Kind::Id, 'First server', 'Who leases the first part; as it is now when none is named', of: Server::class)]
        public string $first = '',
        #[Field(Kind::Number, 'Delay of the others, in milliseconds', most: 10000)]
        public ?int $delay = null,
    ) {
    }

    public function title(): string
    {
        return 'Set the shares of '.(count($this->scopes) === 1 ? 'a scope' : count($this->scopes).' scopes');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return count($this->scopes) === 1 ? at('lease.scope', $this->scopes[0]) : at('lease.coverage');
    }

    public function apply(Ledger $ledger): void
    {
        $scopes = Scopes::picked($ledger, $this->scopes, ['prefix', 'ranges', 'placements.server', 'pair']);
        foreach ($scopes as $scope) {
            $this->divide($ledger, $scope);
        }
    }

    private function divide(Ledger $ledger, Scope $scope): void
    {
        Pairs::refuseShares($ledger, $scope, 'scopes');
        if ((int) $this->delay > 0) {
            Scopes::refuseV6($ledger, $scope, 'there a server is preferred by option 7, none is made to wait', 'delay');
        }
        $servers = $this->inOrder($scope);
        if (count($servers) < 2) {
            $ledger->refuse(
                'one-server',
                "$scope->name is on ".($servers === [] ? 'no server' : "{$servers[0]->name} alone").': there is nothing to divide',
                'Give it a second server first.',
                null,
                'scopes',
                at('lease.scope', $scope->id),
            );
        }
        if ($this->first !== '' && $servers[0]->id !== $this->first) {
            $ledger->refuse(
                'not-its-server',
                "$scope->name is not on the server that is to lease the first part",
                'Choose one of its servers.',
                null,
                'first',
                at('lease.scope', $scope->id),
            );
        }
        $texts = [];
        foreach (Shares::joined(array_values($scope->ranges->map(fn (ScopeRange $r): AddressRange => $r->range())->all())) as $range) {
            foreach (Shares::divide($range, count($servers), $this->percent, 100) as $i => $share) {
                $texts[] = "$share@{$servers[$i]->name}";
            }
        }
        $scope->version = (int) $scope->getOriginal('version') + 1;
        $scope->save();
        ScopeRanges::write($ledger, $scope, $scope->prefix, $texts, $servers, false);
        if ($this->delay !== null) {
            $this->holdBack($scope, $servers[0]->id, $this->delay);
        }
    }

    /** @return list<Server> the first one first: as named, or whose range begins the scope now */
    private function inOrder(Scope $scope): array
    {
        $servers = array_values($scope->placements->sortBy('server.name')->map(fn (ScopeServer $p): Server => $p->server)->all());
        $first = $this->first !== '' ? $this->first : $scope->ranges->first()?->server_id;
        usort($servers, static fn (Server $a, Server $b): int => [$a->id !== $first, $a->name] <=> [$b->id !== $first, $b->name]);

        return $servers;
    }

    private function holdBack(Scope $scope, string $first, int $delay): void
    {
        foreach ($scope->placements as $placement) {
            $placement->delay_ms = $placement->server_id === $first ? 0 : $delay;
            if ($placement->isDirty()) {
                $placement->save();
            }
        }
    }
}
