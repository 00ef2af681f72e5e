<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Domain\Lease\Scopes;
use App\Domain\Plan\Leader;
use App\Domain\Plan\Release;
use App\Domain\Plan\Tree;
use App\Models\HeldRun;
use App\Models\Host;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Scope;
use App\Queries\Granted;
use App\Queries\HandedOut;
use Illuminate\Database\Eloquent\Collection;

/** A prefix is given back. Refused while hosts or a scope stand in it; what a supernet holds moves up. */
final readonly class RemovePrefix extends Act
{
    private const MOST = 5000;

    public function __construct(
        #[Field(Kind::Id, 'Prefix', of: Prefix::class)]
        public string $prefix,
        #[Field(
            Kind::Flag,
            'With all that is inside',
            'Also everything inside, in order: scopes, then hosts with their records and reservations, then prefixes from the inside out',
        )]
        public bool $clean = false,
    ) {
    }

    public function title(): string
    {
        return 'Give back '.(Prefix::query()->find($this->prefix)?->line() ?? 'a prefix');
    }

    public static function may(Person $person): bool
    {
        return Granted::plans($person);
    }

    public function landing(): string
    {
        return at('plan');
    }

    public function apply(Ledger $ledger): void
    {
        $row = Prefix::query()->find($this->prefix) ?? $ledger->refuse('gone', 'The prefix is not there any more');
        $parent = $row->parent;
        Tree::lock($row->space, $parent);
        Tree::lock($row->space, $row);
        Guard::alone("subnet:$row->id");
        $row = Prefix::query()->find($row->id) ?? $ledger->refuse('gone', 'The prefix is not there any more');
        Leader::say($ledger, $row->space_id, $row->prefix());
        if ($this->clean) {
            $this->cleanUp($ledger, $row);
            Tree::remove($row->refresh(), $parent?->refresh());

            return;
        }
        $hosts = Host::query()->where('prefix_id', $row->id)->count();
        if ($hosts > 0) {
            $some = Host::query()->where('prefix_id', $row->id)->orderBy('address')->limit(6)->get()
                ->map(fn (Host $h): string => $h->line())->implode(', ');
            $ledger->refuse(
                'has-hosts',
                "{$row->line()} has $hosts hosts: $some".($hosts > 6 ? ' and '.($hosts - 6).' more' : ''),
                'Release them first, or give it back with all that is inside.',
                link: at('plan.prefix', $row->id),
            );
        }
        $scope = Scope::query()->where('prefix_id', $row->id)->first();
        if ($scope !== null) {
            $ledger->refuse(
                'has-scope',
                "The scope $scope->name leases from it",
                'Remove it first, or give the prefix back with all that is inside.',
                link: at('lease.scope', $scope->id),
            );
        }
        $delegated = $row->family === 6 && $row->kind === PrefixKind::Pool ? HandedOut::overlapping($row->space_id, $row->prefix()) : null;
        if ($delegated !== null) {
            $ledger->warn(
                'pool-delegated',
                "The scope {$delegated->scope->name} delegates {$delegated->line()} from it",
                'It goes on doing so, and the plan does not show it any more.',
                null,
                null,
                at('lease.scope', $delegated->scope_id),
            );
        }
        self::letGo($ledger, [$row->id]);
        if ($row->children > 0) {
            $ledger->warn(
                'moves-up',
                "$row->children prefixes inside move up",
                $parent === null ? 'They become top prefixes of the space.' : "They move into {$parent->line()}.",
            );
        }
        Tree::remove($row, $parent);
    }

    private function cleanUp(Ledger $ledger, Prefix $row): void
    {
        $inside = $row->groups ? $this->inside($row) : new Collection;
        $ids = [$row->id, ...$inside->modelKeys()];
        foreach ($inside as $child) {
            Guard::alone("subnet:$child->id");
        }
        $hosts = Host::query()->whereIn('prefix_id', $ids)->get();
        $scopes = Scope::query()->whereIn('prefix_id', $ids)->get();
        if ($hosts->count() + $inside->count() > self::MOST) {
            $ledger->refuse(
                'too-much',
                sprintf('%s holds %s hosts and %s prefixes', $row->line(), number_format($hosts->count()), number_format($inside->count())),
                sprintf('At most %s go in one act; give back its parts first.', number_format(self::MOST)),
                null,
                null,
                at('plan.prefix', $row->id),
            );
        }
        foreach ($scopes as $scope) {
            Scopes::remove($ledger, $scope);
        }
        if ($hosts->isNotEmpty()) {
            Release::of($ledger, $hosts);
        }
        self::letGo($ledger, $ids);
        foreach ($inside as $child) {
            $child->refresh();
            Tree::remove($child, $child->parent);
        }
        $ledger->warn(
            'all-inside',
            sprintf('%d prefixes, %d scopes and %d hosts inside go with it', $inside->count(), $scopes->count(), $hosts->count()),
            'In this order: scopes, hosts with their records and reservations, prefixes from the inside out.',
        );
    }

    /** @return Collection<int, Prefix> from the inside out */
    private function inside(Prefix $row): Collection
    {
        return Prefix::query()->where('space_id', $row->space_id)->where('family', $row->family)
            ->whereBetween('first', [$row->first->bytes, $row->prefix()->last()->bytes])
            ->where('length', '>=', $row->length)->whereKeyNot($row->id)->orderByDesc('length')->orderBy('groups')->get();
    }

    /** @param  list<string>  $ids  prefixes whose held runs end with them */
    private static function letGo(Ledger $ledger, array $ids): void
    {
        $runs = HeldRun::query()->whereIn('prefix_id', $ids)->get();
        foreach ($runs as $run) {
            $run->delete();
        }
        if ($runs->isNotEmpty()) {
            $ledger->warn(
                'held-runs-go',
                count($runs) === 1 ? 'The held run '.$runs->sole()->line().' goes with it' : count($runs).' held runs go with it',
                'Nobody holds these addresses any more.',
            );
        }
    }
}
