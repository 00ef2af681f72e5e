<?php

declare(strict_types=1);

namespace App\Domain\Plan;

use App\Acts\Engine\Ledger;
use App\Acts\Engine\Refused;
use App\Database\Guard;
use App\Models\Ability;
use App\Models\Host;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Space;
use App\Models\WriteGate;
use App\Queries\Ancestors;
use App\Queries\Granted;
use App\Queries\HandedOut;
use App\Queries\Reach;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\Prefix as Net;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;

/**
 * The prefix tree and its open blocks, kept in step. Every change inside a node first raises the node's `structure`, which is
 * the lock that neighbours wait for; nodes elsewhere are not touched.
 */
final class Tree
{
    /** Locks the node that will hold the prefix, and returns it: null for the space itself. */
    public static function lockParent(Space $space, Net $prefix, bool $groups): ?Prefix
    {
        $parent = Ancestors::holder($space->id, $prefix, $groups);
        for ($i = 0; $i < 4; $i++) {
            self::lock($space, $parent);
            $now = Ancestors::holder($space->id, $prefix, $groups);
            if ($now?->id === $parent?->id) {
                return $now;
            }
            $parent = $now;
        }

        throw new \RuntimeException('The tree kept changing above this prefix.');
    }

    public static function lock(Space $space, ?Prefix $node): void
    {
        $node === null
            ? self::derived(Space::query()->whereKey($space->id))->increment('structure')
            : self::derived(Prefix::query()->whereKey($node->id))->increment('structure');
    }

    /**
     * Columns that follow from the tree: whoever may write the row itself writes them with it, at neighbours too.
     *
     * @param  Builder<Prefix>|Builder<Space>  $query
     */
    private static function derived(Builder $query): \Illuminate\Database\Query\Builder
    {
        return $query->toBase();
    }

    /** Takes a new row into the tree: children that lie inside move below it, open blocks follow. The parent is locked. */
    public static function insert(Prefix $row, ?Prefix $parent): void
    {
        $net = $row->prefix();
        $moved = Prefix::query()->where('parent_id', $parent?->id)->where('space_id', $row->space_id)->where('family', $row->family)
            ->whereBetween('first', [$net->first->bytes, $net->last()->bytes])->where('length', '>=', $net->length);
        $shares = 0.0;
        $children = 0;
        foreach ((clone $moved)->groupBy('length')->selectRaw('length, count(*) as n')->toBase()->get() as $group) {
            $shares += $group->n * 2.0 ** ($net->length - $group->length);
            $children += (int) $group->n;
        }
        $row->children = $children;
        $row->carved = $shares;
        $row->effective_tenant_id = $row->tenant_id ?? $parent?->effective_tenant_id;
        $row->save();
        self::derived($moved->whereKeyNot($row->id))->update(['parent_id' => $row->id]);
        self::takeOpen($row, $parent, $net, $children > 0);
        if ($parent !== null) {
            $scale = 2.0 ** ($parent->length - $net->length);
            self::derived(Prefix::query()->whereKey($parent->id))->update([
                'children' => DB::raw('children + '.(1 - $children)),
                'carved' => DB::raw(sprintf('carved + %.17g', $scale * (1 - $shares))),
            ]);
        }
        if ($children > 0 && $row->tenant_id !== null) {
            self::inheritTenant($row);
        }
    }

    /** Takes a row out; what was inside moves up. The parent is locked and the row is empty of hosts. */
    public static function remove(Prefix $row, ?Prefix $parent): void
    {
        self::takeOut($row, $parent);
        $row->delete();
    }

    /** Gives a row another place or size; what was inside moves up, what is inside now moves below it. Both nodes are locked. */
    public static function resize(Prefix $row, ?Prefix $parent, Net $net, ?Prefix $newParent): void
    {
        WriteGate::books()->mayWrite($row, $row->getRawOriginal());
        self::takeOut($row, $parent);
        // Out of everybody's children while it is neither here nor there.
        self::derived(Prefix::query()->whereKey($row->id))->update(['parent_id' => $row->id]);
        $row->refresh();
        $row->first = $net->first;
        $row->length = $net->length;
        $row->parent_id = $newParent?->id;
        self::insert($row, $newParent?->refresh());
    }

    private static function takeOut(Prefix $row, ?Prefix $parent): void
    {
        $net = $row->prefix();
        self::derived(Prefix::query()->where('parent_id', $row->id))->update(['parent_id' => $parent?->id]);
        $open = DB::table('open_blocks')->where('parent_id', $row->id);
        if ($parent === null) {
            $open->delete();
        } else {
            $open->update(['parent_id' => $parent->id]);
            if (! $row->groups || $row->children === 0) {
                DB::table('open_blocks')->where('parent_id', $parent->id)->where('first', $net->first->bytes)
                    ->where('length', $net->length)->delete();
                self::giveOpen($parent, $net);
            }
            $scale = 2.0 ** ($parent->length - $net->length);
            self::derived(Prefix::query()->whereKey($parent->id))->update([
                'children' => DB::raw('children + '.($row->children - 1)),
                'carved' => DB::raw(sprintf('carved + %.17g', $scale * ($row->carved - 1))),
            ]);
        }
    }

    /** Makes a prefix another kind, where what is inside allows it. The caller saves the row. */
    public static function turn(Ledger $ledger, Prefix $row, PrefixKind $kind): void
    {
        self::lock($row->space, $row->parent);
        self::lock($row->space, $row);
        Guard::alone("subnet:$row->id");
        $hosts = Host::query()->where('prefix_id', $row->id)->count();
        if ($hosts > 0) {
            $ledger->refuse(
                'has-hosts',
                "{$row->line()} has $hosts hosts",
                "Only a subnet holds hosts; release them before it becomes a $kind->value.",
                null,
                'kind',
                at('plan.prefix', $row->id),
            );
        }
        $scope = \App\Models\Scope::query()->where('prefix_id', $row->id)->first();
        if ($scope !== null) {
            $ledger->refuse(
                'has-scope',
                "The scope $scope->name leases from {$row->line()}",
                'Only a subnet is leased from; remove the scope first.',
                null,
                'kind',
                at('lease.scope', $scope->id),
            );
        }
        if ($row->groups && $row->children > 0) {
            $ledger->refuse(
                'has-children',
                "{$row->line()} holds $row->children prefixes",
                "A $kind->value holds none; give them back first.",
                null,
                'kind',
                at('plan.prefix', $row->id),
            );
        }
        $groups = $kind->groups();
        if ($groups !== $row->groups) {
            self::check($ledger, $row->space, $row->prefix(), $groups, $row->id, $kind === PrefixKind::Pool);
            DB::table('open_blocks')->where('parent_id', $row->id)->delete();
            $groups && self::write($row->id, [[$row->first->bytes, $row->length]]);
        }
        if ($kind !== PrefixKind::Subnet && $row->gateway !== null) {
            $row->gateway = null;
            $ledger->warn('gateway-goes', "The gateway goes: a $kind->value has none");
        }
        $row->groups = $groups;
        $row->kind = $kind;
    }

    /** Hands the tenant of a row down to everything below that has none of its own. */
    public static function inheritTenant(Prefix $row): void
    {
        $above = [[$row->prefix(), $row->effective_tenant_id]];
        $below = Prefix::query()->where('space_id', $row->space_id)->where('family', $row->family)
            ->whereBetween('first', [$row->first->bytes, $row->prefix()->last()->bytes])->where('length', '>=', $row->length)
            ->whereKeyNot($row->id)->orderBy('first')->orderBy('length')->orderByDesc('groups');
        foreach ($below->lazy(1000) as $child) {
            while (! $above[count($above) - 1][0]->contains($child->prefix())) {
                array_pop($above);
            }
            $tenant = $child->tenant_id ?? $above[count($above) - 1][1];
            if ($child->effective_tenant_id !== $tenant) {
                self::derived(Prefix::query()->whereKey($child->id))->update(['effective_tenant_id' => $tenant]);
            }
            $above[] = [$child->prefix(), $tenant];
        }
    }

    /** What a scope delegates to routers is no place for a subnet; a pool may hold all of it. */
    private static function refuseDelegated(Ledger $ledger, Space $space, Net $net, bool $pool): void
    {
        if ($net->family() === Family::V4) {
            return;
        }
        // A scope that is being given a pool just now is waited for.
        Guard::share("delegations:$space->id");
        $taken = HandedOut::overlapping($space->id, $net);
        if ($taken !== null && ! ($pool && $net->contains($taken->delegation()->pool))) {
            $ledger->refuse(
                'delegated-here',
                "$net stands in {$taken->delegation()->pool}, which the scope {$taken->scope->name} delegates to routers",
                'A router may have it by now. Choose another place, or take the pool from the scope first.',
                'RFC 8415 §6.3',
                'prefix',
                at('lease.scope', $taken->scope_id),
            );
        }
    }

    /** Nothing is told of a place where the person may not plan: no name of what is in the way, not even that something is. */
    private static function ask(Ledger $ledger, Space $space, Net $net): void
    {
        if ($ledger->person === null || ! $ledger->person->isBound()) {
            return;
        }
        $values = ['space_id' => $space->id, 'family' => $net->family()->value, 'first' => $net->first->bytes, 'length' => $net->length];
        if (Granted::covers($ledger->person, Ability::Space, $values)) {
            return;
        }
        foreach (Ancestors::of($space->id, $net) as $above) {
            if (Granted::carvesIn($ledger->person, $above)) {
                return;
            }
        }
        $ledger->refuse('place-not-yours', "$net is not available to you", 'Choose a place inside what is given to you.', field: 'prefix');
    }

    /** Refuses what cannot stand where it is asked to: the rules of the tree, each naming what is in the way. */
    public static function check(
        Ledger $ledger,
        Space $space,
        Net $net,
        bool $groups,
        ?string $except = null,
        bool $pool = false,
    ): void {
        self::ask($ledger, $space, $net);
        try {
            self::judge($ledger, $space, $net, $groups, $except, $pool);
        } catch (Refused $e) {
            if ($ledger->person === null || ! $ledger->person->isBound() || self::mayKnow($ledger->person, $e->note->link)) {
                throw $e;
            }
            array_pop($ledger->notes);
            $ledger->refuse('place-not-yours', "$net is not available to you", 'Choose another place.', field: 'prefix');
        }
    }

    /** May the person know what stands in the way, by the page of it? */
    private static function mayKnow(Person $person, ?string $page): bool
    {
        if ($page === null || preg_match('~\A/(plan/prefix|lease/scope)/(\w+)\z~', $page, $m) !== 1) {
            return $page === null;
        }
        $reach = Reach::of($person);

        return ($m[1] === 'lease/scope' ? $reach->scopes() : $reach->prefixes())->whereKey($m[2])->exists();
    }

    private static function judge(Ledger $ledger, Space $space, Net $net, bool $groups, ?string $except, bool $pool): void
    {
        $chain = Ancestors::of($space->id, $net)->reject(fn (Prefix $p): bool => $p->id === $except);
        foreach ($chain as $above) {
            $page = at('plan.prefix', $above->id);
            if ($above->length === $net->length && $above->groups === $groups) {
                $ledger->refuse(
                    'duplicate',
                    "$net is already in {$space->name}: {$above->line()}",
                    $groups
                        ? 'A supernet inside a supernet of the same size would group nothing.'
                        : 'A second child as large as its parent is refused: one subnet or pool may fill a supernet exactly.',
                    null,
                    'prefix',
                    $page,
                );
            }
            if (! $above->groups && $above->length < $net->length || ! $above->groups && ! $groups && $above->length === $net->length) {
                $hosts = Host::query()->where('prefix_id', $above->id)->count();
                $ledger->refuse(
                    'inside-link',
                    "$net lies inside the {$above->kind->value} {$above->line()}",
                    $hosts > 0
                        ? "It has $hosts hosts; only a supernet holds prefixes."
                        : 'Only a supernet holds prefixes; make it a supernet first.',
                    null,
                    'prefix',
                    $page,
                );
            }
        }
        if (! $groups) {
            $inside = Prefix::query()->where('space_id', $space->id)->where('family', $net->family()->value)
                ->whereBetween('first', [$net->first->bytes, $net->last()->bytes])->where('length', '>=', $net->length)
                ->when($except, fn ($q) => $q->whereKeyNot($except))
                ->where(fn ($q) => $q->where('length', '>', $net->length)->orWhere('groups', false))->orderBy('first')->first();
            if ($inside !== null) {
                $ledger->refuse(
                    'overlap',
                    "$net would cover {$inside->line()}",
                    'A subnet or pool holds no prefixes; make this one a supernet, or choose another place.',
                    null,
                    'prefix',
                    at('plan.prefix', $inside->id),
                );
            }
        }
        $groups ?: self::refuseDelegated($ledger, $space, $net, $pool);
        $ledger->passed('overlaps-nothing', 'Overlaps nothing live, planned or withheld');
    }

    private static function takeOpen(Prefix $row, ?Prefix $parent, Net $net, bool $hasChildren): void
    {
        $inner = [];
        if ($parent !== null) {
            $around = DB::table('open_blocks')->where('parent_id', $parent->id)
                ->where('first', '<=', $net->first->bytes)->orderByDesc('first')->limit(1)->first(['first', 'length']);
            if ($around !== null && $around->length <= $net->length) {
                DB::table('open_blocks')->where('parent_id', $parent->id)->where('length', $around->length)
                    ->where('first', $around->first)->delete();
                self::write($parent->id, self::remnants((string) $around->first, (int) $around->length, $net));
            } else {
                $taken = DB::table('open_blocks')->where('parent_id', $parent->id)
                    ->whereBetween('first', [$net->first->bytes, $net->last()->bytes]);
                $inner = (clone $taken)->get(['first', 'length'])
                    ->map(fn (object $b): array => [(string) $b->first, (int) $b->length])->values()->all();
                $taken->delete();
            }
        } elseif ($hasChildren) {
            $used = Prefix::query()->where('parent_id', $row->id)->orderBy('first')->get(['first', 'length'])
                ->map(fn (Prefix $p): Net => $p->prefix());
            $inner = array_map(
                fn (Net $p): array => [$p->first->bytes, $p->length],
                \HarborPost\Core\Planning\OpenSpace::in($net, $used)->blocks(),
            );
        }
        if ($row->groups) {
            self::write($row->id, $hasChildren ? array_values($inner) : [[$net->first->bytes, $net->length]]);
        }
    }

    /** Opens a prefix again and joins it with open siblings as far as that goes. */
    private static function giveOpen(Prefix $parent, Net $net): void
    {
        while ($net->length > $parent->length && ($sibling = $net->sibling()) !== null) {
            $gone = DB::table('open_blocks')->where('parent_id', $parent->id)->where('length', $sibling->length)
                ->where('first', $sibling->first->bytes)->delete();
            if ($gone === 0) {
                break;
            }
            $net = $net->supernet() ?? $net;
        }
        self::write($parent->id, [[$net->first->bytes, $net->length]]);
    }

    /** @return list<array{string, int}> what is left of an open block around a prefix */
    private static function remnants(string $first, int $length, Net $net): array
    {
        $left = [];
        for ($at = $net->length; $at > $length; $at--) {
            $sibling = $net->first->in($at)->sibling();
            if ($sibling !== null) {
                $left[] = [$sibling->first->bytes, $at];
            }
        }

        return $left;
    }

    /** @param  list<array{string, int}>  $blocks */
    private static function write(string $parent, array $blocks): void
    {
        foreach (array_chunk($blocks, 1000) as $chunk) {
            DB::table('open_blocks')->insert(
                array_map(fn (array $b): array => ['parent_id' => $parent, 'first' => $b[0], 'length' => $b[1]], $chunk),
            );
        }
    }
}
