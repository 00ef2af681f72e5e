<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\NewScope;
use App\Domain\Lease\OptionPlace;
use App\Domain\Lease\Options;
use App\Domain\Lease\Scopes;
use App\Models\OptionValue;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Scope;
use App\Models\ScopeExclusion;
use App\Models\ScopeRange;
use App\Models\ScopeServer;
use App\Models\Server;
use App\Models\Stage;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Net\AddressRange;
use Illuminate\Support\Str;

/**
 * Scopes like one that is there, on other subnets: lease time, servers or pair, options, who names its leases; its ranges and what is kept
 * out of them at the same places of the subnet. Reservations are of clients and are not copied.
 */
final readonly class CopyScope extends Act
{
    public const MOST = 200;

    /** @param  list<string>  $prefixes */
    public function __construct(
        #[Field(Kind::Id, 'Scope', of: Scope::class)]
        public string $scope,
        #[Field(Kind::Ids, 'Subnets', of: Prefix::class)]
        public array $prefixes,
        #[Field(Kind::Choice, 'Stage', choices: ['planned', 'live'])]
        public string $stage = 'planned',
    ) {
    }

    public function title(): string
    {
        return 'Copy the scope '.(Scope::query()->find($this->scope)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('lease');
    }

    public function apply(Ledger $ledger): void
    {
        $like = Scope::query()->with(['prefix', 'pair.first', 'pair.second', 'ranges', 'exclusions', 'placements.server', 'optionValues'])
            ->find($this->scope) ?? $ledger->refuse('gone', 'The scope is not there any more');
        $subnets = Prefix::query()->whereIn('id', $this->prefixes)->orderBy('first')->get();
        if ($subnets->isEmpty() || $subnets->count() !== count(array_unique($this->prefixes))) {
            $ledger->refuse('gone', 'A subnet of the selection is not there any more', 'Pick anew.', null, 'prefixes');
        }
        if ($subnets->count() > self::MOST) {
            $ledger->refuse('too-many', 'At most '.self::MOST.' scopes at once', field: 'prefixes');
        }
        if ($like->delegations()->exists()) {
            $ledger->later('Pools that are delegated to routers are not copied: each is delegated once');
        }
        foreach ($subnets as $subnet) {
            $this->one($ledger, $like, $subnet);
        }
    }

    private function one(Ledger $ledger, Scope $like, Prefix $subnet): void
    {
        Scopes::checkSubnet($ledger, $subnet, 'prefixes');
        if ($subnet->family !== $like->prefix->family) {
            $ledger->refuse('other-family', "{$subnet->line()} is of the other IP version than $like->name", field: 'prefixes');
        }
        $names = $like->placements->pluck('server.name', 'server_id');
        $servers = array_values($like->placements->map(static fn ($p): Server => $p->server)->all());
        $scope = Scopes::make($ledger, $subnet, new NewScope(
            (string) Str::ulid(),
            '',
            Stage::from($this->stage),
            $like->lease_time,
            $like->pair,
            $servers,
            array_values($like->ranges->map(fn (ScopeRange $r): string => $this->moved($ledger, $like, $subnet, $r->range())
                .($r->server_id === null ? '' : '@'.($names[$r->server_id] ?? '')))->all()),
            array_values($like->exclusions
                ->map(fn (ScopeExclusion $x): string => $this->moved($ledger, $like, $subnet, $x->range()))->all()),
            description: $like->description,
            preferred: $like->preferred_time,
            rapid: $like->rapid_commit,
            autonomous: $like->autonomous,
        ));
        $scope->fill($like->only([
            'name_who', 'name_zone_id', 'name_key_id', 'name_ttl', 'name_by_pattern', 'name_pattern',
        ]))->save();
        $this->keep($ledger, $like, $scope, $subnet);
        foreach ($like->optionValues as $option) {
            $this->option($ledger, $like, $scope, $subnet, $option);
        }
    }

    /** What is kept for a class, or closed to it, is so in the copy; servers hold their offers back as long. */
    private function keep(Ledger $ledger, Scope $like, Scope $scope, Prefix $subnet): void
    {
        $kept = $like->ranges->whereNotNull('class_id')
            ->keyBy(fn (ScopeRange $r): string => $this->moved($ledger, $like, $subnet, $r->range()));
        foreach (ScopeRange::query()->where('scope_id', $scope->id)->get() as $range) {
            $own = $kept[(string) $range->range()] ?? null;
            if ($own !== null) {
                $range->fill($own->only(['class_id', 'class_only']))->save();
            }
        }
        $delays = $like->placements->pluck('delay_ms', 'server_id');
        foreach (ScopeServer::query()->where('scope_id', $scope->id)->get() as $placement) {
            $placement->fill(['delay_ms' => $delays[$placement->server_id] ?? 0])->save();
        }
    }

    private function option(Ledger $ledger, Scope $like, Scope $scope, Prefix $subnet, OptionValue $option): void
    {
        $values = $option->values;
        // A router that is the gateway here is the gateway there.
        if ($subnet->family === 4 && $option->code === OptionTable::ROUTER && $values === [(string) $like->prefix->gateway]) {
            $values = $subnet->gateway === null ? [] : [(string) $subnet->gateway];
            if ($values === []) {
                Scopes::sayNoGateway($ledger, $subnet);

                return;
            }
        }
        Options::write($ledger, OptionPlace::ofScope($scope), $option->code, $values, $values === [], $option->family);
    }

    private function moved(Ledger $ledger, Scope $like, Prefix $subnet, AddressRange $range): string
    {
        $moved = $range->moved($like->prefix->prefix()->first, $subnet->prefix()->first);
        if ($moved === null || ! $subnet->prefix()->range()->contains($moved)) {
            $ledger->refuse(
                'range-does-not-fit',
                "$range of $like->name has no place in {$subnet->line()}, which is smaller",
                'Copy it to subnets of its size, or make the scope there with ranges of its own.',
                null,
                'prefixes',
                at('plan.prefix', $subnet->id),
            );
        }

        return (string) $moved;
    }
}
