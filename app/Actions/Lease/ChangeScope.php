<?php

declare(strict_types=1);

namespace App\Actions\Lease;

use App\Actions\Action;
use App\Actions\Field;
use App\Actions\Kind;
use App\Actions\Ledger;
use App\Models\Lease;
use App\Models\Person;
use App\Models\Scope;
use App\Models\ScopeRange;
use App\Models\ScopeServer;
use App\Models\Server;
use HarborPost\Core\Dns\Ttl;

/** Ranges, exclusions, servers, lease time or stage of a scope change. What is not given stays. */
final readonly class ChangeScope extends Action
{
    /**
     * @param  ?list<string>  $ranges
     * @param  ?list<string>  $exclusions
     * @param  ?list<string>  $servers
     */
    public function __construct(
        #[Field(Kind::Id, 'Scope', of: Scope::class)]
        public string $scope,
        #[Field(Kind::Line, 'Name', most: 120)]
        public ?string $name = null,
        #[Field(Kind::Choice, 'Stage', choices: ['planned', 'live'])]
        public ?string $stage = null,
        #[Field(Kind::Texts, 'Ranges', most: 120)]
        public ?array $ranges = null,
        #[Field(Kind::Texts, 'Exclusions', most: 120)]
        public ?array $exclusions = null,
        #[Field(Kind::Ids, 'Servers', of: Server::class)]
        public ?array $servers = null,
        #[Field(Kind::Line, 'Lease time', most: 30)]
        public ?string $leaseTime = null,
        #[Field(Kind::Line, 'Description', most: 255)]
        public ?string $description = null,
        #[Field(Kind::Flag, 'Lists are given', 'Lists were on the form, so an empty one means none')]
        public bool $lists = false,
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
        return "/lease/scope/$this->scope";
    }

    public function apply(Ledger $ledger): void
    {
        $scope = Scope::query()->with(['prefix', 'ranges', 'exclusions', 'placements'])->lockForUpdate()->find($this->scope) ?? $ledger->refuse('gone', 'The scope is not there any more');
        $scope->name = $this->name ?? $scope->name;
        $scope->stage = in_array($this->stage, ['planned', 'live'], true) ? $this->stage : $scope->stage;
        $scope->description = $this->description ?? $scope->description;
        if ($this->leaseTime !== null) {
            $scope->lease_time = MakeScope::leaseTime($ledger, $this->leaseTime);
            if ($scope->isDirty('lease_time')) {
                $ledger->later('Clients take the new lease time with their next renewal, within '.Ttl::of(intdiv((int) $scope->getOriginal('lease_time'), 2))->spoken());
            }
        }
        $scope->version++;
        $scope->save();
        $servers = $this->servers ?? ($this->lists ? [] : null);
        if ($servers !== null) {
            $this->place($scope, $servers);
        }
        $held = MakeScope::servers($ledger, ScopeServer::query()->where('scope_id', $scope->id)->pluck('server_id')->all());
        $ranges = $this->ranges ?? ($this->lists ? [] : null);
        if ($ranges !== null) {
            $scope->ranges->each->delete();
            MakeScope::writeRanges($ledger, $scope, $scope->prefix, $ranges, $held);
            $this->warnCutOff($ledger, $scope);
        }
        $exclusions = $this->exclusions ?? ($this->lists ? [] : null);
        if ($exclusions !== null) {
            $scope->exclusions->each->delete();
            MakeScope::writeExclusions($ledger, $scope, $exclusions);
        }
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

    /** Active leases that no range holds any more. */
    private function warnCutOff(Ledger $ledger, Scope $scope): void
    {
        $ranges = ScopeRange::query()->where('scope_id', $scope->id)->get();
        $cut = Lease::query()->where('scope_id', $scope->id)->where('state', 'active')->where('ends_at', '>', $ledger->at)->get()
            ->reject(fn (Lease $l): bool => $ranges->contains(fn ($r): bool => $r->range()->contains($l->address)));
        if ($cut->isNotEmpty()) {
            $ledger->warn('leases-cut-off', "{$cut->count()} active leases lie outside the new ranges", 'Their clients get another address when they next ask: '.$cut->take(3)->map(fn (Lease $l): string => (string) $l->address)->implode(', '));
        }
    }
}
