<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\Delegations;
use App\Domain\Lease\LinkShare;
use App\Domain\Lease\Pairs;
use App\Domain\Lease\ScopeRanges;
use App\Domain\Lease\Scopes;
use App\Models\Person;
use App\Models\Scope;
use App\Models\ScopeServer;
use App\Models\Server;
use App\Models\Stage;
use HarborPost\Core\Dns\Ttl;
use HarborPost\Core\Exchange\Shares;
use HarborPost\Core\Net\AddressRange;

/** Ranges, exclusions, servers, lease time or stage of a scope change. What is not given stays. */
final readonly class ChangeScope extends Act
{
    /**
     * @param  ?list<string>  $ranges
     * @param  ?list<string>  $exclusions
     * @param  ?list<string>  $servers
     * @param  ?list<string>  $delegations
     */
    public function __construct(
        #[Field(Kind::Id, 'Scope', of: Scope::class)]
        public string $scope,
        #[Field(Kind::Line, 'Name', most: 120)]
        public ?string $name = null,
        #[Field(Kind::Choice, 'Stage', choices: ['planned', 'live'])]
        public ?string $stage = null,
        #[Field(Kind::Lines, 'Ranges', 'Each first-last, or a rule: all but the first 20', most: 120)]
        public ?array $ranges = null,
        #[Field(Kind::Texts, 'Exclusions', most: 120)]
        public ?array $exclusions = null,
        #[Field(Kind::Ids, 'Servers', of: Server::class)]
        public ?array $servers = null,
        #[Field(Kind::Line, 'Lease time', most: 30)]
        public ?string $leaseTime = null,
        #[Field(Kind::Line, 'Description', most: 255)]
        public ?string $description = null,
        #[Field(Kind::Flag, 'Divide', 'Divides the ranges anew between the servers, four fifths for the first')]
        public bool $divide = false,
        #[Field(Kind::Flag, 'Lists are given', 'Lists were on the form, so an empty one means none')]
        public bool $lists = false,
        #[Field(Kind::Line, 'Preferred life', 'Of IPv6: how long new connections may begin; blank: as long as the lease', most: 30)]
        public ?string $preferred = null,
        #[Field(Kind::Lines, 'Delegated', 'Of IPv6: pools for routers, each as 2001:db8:40::/44 as /56', most: 120)]
        public ?array $delegations = null,
        #[Field(Kind::Choice, 'Rapid commit', 'Of IPv6: answers in one step to who asks for it', choices: ['yes', 'no'])]
        public ?string $rapid = null,
        #[Field(Kind::Choice, 'Addresses of one\'s own', 'Of IPv6: clients make addresses of their own too', choices: ['yes', 'no'])]
        public ?string $autonomous = null,
    ) {
    }

    public function title(): string
    {
        return 'Change the scope '.(Scope::query()->find($this->scope)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('lease.scope', $this->scope);
    }

    public function apply(Ledger $ledger): void
    {
        $scope = Scope::query()->with(['prefix', 'ranges', 'exclusions', 'placements'])->find($this->scope)
            ?? $ledger->refuse('gone', 'The scope is not there any more');
        $this->changeV6($ledger, $scope);
        $scope->name = $this->name ?? $scope->name;
        $scope->stage = $this->stage === null ? $scope->stage : Stage::from($this->stage);
        $scope->description = $this->description ?? $scope->description;
        if ($this->leaseTime !== null && trim($this->leaseTime) !== $scope->leaseTyped()) {
            $scope->lease_time = Scopes::leaseTime($ledger, $this->leaseTime);
            if ($scope->isDirty('lease_time')) {
                $ledger->later(
                    'Clients take the new lease time with their next renewal, within '
                        .Ttl::of(intdiv((int) $scope->getOriginal('lease_time'), 2))->spoken(),
                );
            }
        }
        $turns = $scope->isDirty('stage');
        $scope->version = (int) $scope->getOriginal('version') + 1;
        $scope->save();
        $turns && LinkShare::say($ledger, $scope->prefix, $scope->prefix->vlan_id);
        $servers = $this->servers ?? ($this->lists ? [] : null);
        if ($servers !== null && $scope->pair_id !== null && array_diff($servers, $scope->placements->pluck('server_id')->all()) === []
            && count($servers) === 2) {
            $servers = null;
        }
        if ($servers !== null) {
            Pairs::refuseShares($ledger, $scope, 'servers');
            $this->place($scope, $servers);
        }
        $ranges = $this->ranges ?? ($this->lists ? [] : null);
        if ($ranges !== null || $servers !== null || $this->divide) {
            $ids = ScopeServer::query()->where('scope_id', $scope->id)->get()->map(fn (ScopeServer $p): string => $p->server_id)->all();
            $held = Scopes::servers($ledger, array_values($ids));
            $texts = $ranges ?? ScopeRanges::texts($scope);
            ScopeRanges::write($ledger, $scope, $scope->prefix, $this->divide ? self::undivided($texts) : $texts, $held, $this->divide);
        }
        $delegations = $this->delegations ?? ($this->lists ? [] : ($servers !== null ? Delegations::texts($scope) : null));
        if ($delegations !== null) {
            $ids = ScopeServer::query()->where('scope_id', $scope->id)->pluck('server_id')->all();
            $held = Server::query()->whereIn('id', $ids)->orderBy('name')->get()->all();
            Delegations::write($ledger, $scope, $delegations, array_values($held), $this->divide);
        }
        $exclusions = $this->exclusions ?? ($this->lists ? [] : null);
        if ($exclusions !== null) {
            $scope->exclusions->each->delete();
            Scopes::writeExclusions($ledger, $scope, $exclusions);
        }
    }

    private function changeV6(Ledger $ledger, Scope $scope): void
    {
        if ($this->preferred !== null) {
            $valid = $this->leaseTime === null ? $scope->lease_time : Scopes::leaseTime($ledger, $this->leaseTime);
            $scope->preferred_time = Scopes::preferred($ledger, $scope->prefix, $this->preferred, $valid);
        }
        $scope->rapid_commit = $this->rapid === null ? $scope->rapid_commit : $this->rapid === 'yes';
        $scope->autonomous = $this->autonomous === null ? $scope->autonomous : $this->autonomous === 'yes';
        if ($scope->isDirty(['rapid_commit', 'autonomous']) && $scope->prefix->family !== 6) {
            $ledger->refuse('preferred-of-v4', 'Rapid commit and addresses of one\'s own are told of IPv6 here', field: 'rapid');
        }
    }

    /**
     * Shares that follow each other are one range again, to be divided anew.
     *
     * @param  list<string>  $texts
     * @return list<string>
     */
    private static function undivided(array $texts): array
    {
        $ranges = array_values(
            array_filter(array_map(static fn (string $t): ?AddressRange => AddressRange::tryParse(trim(explode('@', $t)[0])), $texts)),
        );

        return array_map(strval(...), Shares::joined($ranges));
    }

    /** @param  list<string>  $servers */
    private function place(Scope $scope, array $servers): void
    {
        foreach ($scope->placements as $placement) {
            if (! in_array($placement->server_id, $servers, true)) {
                $placement->delete();
            }
        }
        foreach ($servers as $id) {
            if (! $scope->placements->contains('server_id', $id)) {
                (new ScopeServer(['scope_id' => $scope->id, 'server_id' => $id]))->save();
            }
        }
    }
}
