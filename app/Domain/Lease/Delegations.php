<?php

declare(strict_types=1);

namespace App\Domain\Lease;

use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Scope;
use App\Models\ScopeDelegation;
use App\Models\Server;
use App\Queries\HandedOut;
use App\Queries\InUse;
use Brick\Math\BigInteger;
use HarborPost\Core\Exchange\V6\Delegation;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix as Net;

/** The pools from which a scope delegates prefixes to routers. As with ranges, what two servers may give out is given out twice. */
final class Delegations
{
    /**
     * Brings the rows to what is written, "POOL as /LENGTH" with "@server" behind it for a share; rows that stay are not touched.
     *
     * @param  list<string>  $texts
     * @param  list<Server>  $servers  those of the scope
     */
    public static function write(Ledger $ledger, Scope $scope, array $texts, array $servers, bool $divide): void
    {
        $rows = ScopeDelegation::query()->where('scope_id', $scope->id)->get()
            ->keyBy(fn (ScopeDelegation $d): string => "{$d->delegation()} $d->server_id");
        $texts = array_values(array_filter(array_map(trim(...), $texts), static fn (string $t): bool => $t !== ''));
        if ($texts === [] && $rows->isEmpty()) {
            return;
        }
        if ($scope->prefix->family !== 6) {
            $ledger->refuse('delegation-of-v4', 'Only DHCPv6 delegates prefixes', 'Leave the pools blank.', 'RFC 8415 §6.3', 'delegations');
        }
        // One lock for all pools of a space: two scopes must not be given the same one at once, nor a subnet be carved there meanwhile.
        Guard::alone("delegations:{$scope->prefix->space_id}");
        $wanted = self::divided($ledger, array_map(static fn (string $t): array => self::read($ledger, $t, $servers), $texts), $servers,
            $divide);
        foreach ($wanted as $i => [$one]) {
            self::checkPlace($ledger, $scope, $one, array_map(static fn (array $w): Delegation => $w[0], array_slice($wanted, 0, $i)));
        }
        foreach ($wanted as [$one, $server]) {
            $key = "$one ".($server->id ?? '');
            if ($rows->has($key)) {
                $rows->forget([$key]);

                continue;
            }
            (new ScopeDelegation([
                'scope_id' => $scope->id, 'server_id' => $server?->id, 'first' => $one->pool->first, 'pool_length' => $one->pool->length,
                'length' => $one->length,
            ]))->save();
            self::sayPlanned($ledger, $scope, $one);
        }
        $rows->each->delete();
        self::sayCutOff($ledger, $scope, array_map(static fn (array $w): Delegation => $w[0], $wanted));
        $wanted === [] ?: $ledger->passed('delegations', 'The pools are apart from each other and from every subnet');
    }

    /** @return list<string> the present pools as they are written */
    public static function texts(Scope $scope): array
    {
        $names = $scope->loadMissing('placements.server')->placements->pluck('server.name', 'server_id');

        return array_values($scope->delegations->map(
            fn (ScopeDelegation $d): string => $d->delegation().($d->server_id === null ? '' : '@'.($names[$d->server_id] ?? '')),
        )->all());
    }

    /**
     * @param  list<Server>  $servers
     * @return array{Delegation, ?Server}
     */
    private static function read(Ledger $ledger, string $text, array $servers): array
    {
        [$pool, $name] = [...explode('@', $text, 2), null];
        try {
            $one = Delegation::parse((string) $pool);
        } catch (NotUnderstood $e) {
            $ledger->refuse('bad-delegation', $e->getMessage(), 'Such as 2001:db8:40::/44 as /56.', 'RFC 8415 §6.3', 'delegations');
        }
        if ($name === null) {
            return [$one, null];
        }
        foreach ($servers as $server) {
            if ($server->name === trim($name)) {
                return [$one, $server];
            }
        }
        $ledger->refuse(
            'share-orphaned',
            "$one is the share of \"$name\", which is not chosen here",
            'Give it to a server of the scope.',
            null,
            'delegations',
        );
    }

    /**
     * @param  list<array{Delegation, ?Server}>  $pools
     * @param  list<Server>  $servers
     * @return list<array{Delegation, ?Server}>
     */
    private static function divided(Ledger $ledger, array $pools, array $servers, bool $divide): array
    {
        if (count($servers) < 2) {
            return $pools;
        }
        $shares = [];
        foreach ($pools as [$one, $server]) {
            // As many halvings as give each server a part of its own.
            $bits = (int) ceil(log(count($servers), 2));
            if ($server !== null) {
                $shares[] = [$one, $server];

                continue;
            }
            if ($one->pool->length + $bits > $one->length || ! $divide) {
                $ledger->refuse(
                    'undivided',
                    "$one would be delegated by ".implode(' and ', array_map(static fn (Server $s): string => $s->name, $servers))
                        .', each without knowing of the other',
                    $divide ? 'It is too small to be divided. Give it to one of them: write @name behind it.'
                        : 'The same prefix would be given to two routers. Give each server a pool: write @name behind it, or divide.',
                    'RFC 8415 §6.3',
                    'delegations',
                );
            }
            foreach ($servers as $i => $own) {
                $part = Delegation::of($one->pool, $one->pool->length + $bits)->part(BigInteger::of($i));
                $part === null ?: $shares[] = [Delegation::of($part, $one->length), $own];
            }
        }

        return $shares;
    }

    /** @param  list<Delegation>  $before */
    private static function checkPlace(Ledger $ledger, Scope $scope, Delegation $one, array $before): void
    {
        $link = $scope->prefix->prefix();
        if ($one->pool->overlaps($link)) {
            $ledger->refuse(
                'delegation-on-link',
                "$one->pool cannot be delegated on $link",
                'A router is delegated space of its own, behind it and not on the link.',
                'RFC 8415 §6.3',
                'delegations',
            );
        }
        foreach ($before as $other) {
            if ($one->pool->overlaps($other->pool)) {
                $ledger->refuse('delegation-overlap', "$one overlaps $other", 'The same prefix would be given twice.', null, 'delegations');
            }
        }
        $taken = HandedOut::overlapping($scope->prefix->space_id, $one->pool, $scope->id);
        if ($taken !== null) {
            $ledger->refuse(
                'delegation-overlap',
                "$one overlaps {$taken->line()} of {$taken->scope->name}",
                'The same prefix would be given to two routers.',
                null,
                'delegations',
                at('lease.scope', $taken->scope_id),
            );
        }
        $subnet = self::subnetIn($scope, $one->pool);
        if ($subnet !== null) {
            $ledger->refuse(
                'delegation-over-subnet',
                "{$subnet->line()} stands in $one->pool",
                'What is delegated must not be a subnet of ours.',
                null,
                'delegations',
                at('plan.prefix', $subnet->id),
            );
        }
    }

    private static function subnetIn(Scope $scope, Net $pool): ?Prefix
    {
        $inside = Prefix::query()->where('space_id', $scope->prefix->space_id)->where('family', 6)->where('kind', PrefixKind::Subnet)
            ->whereBetween('first', [$pool->first->bytes, $pool->last()->bytes])->orderBy('first')->first();

        return $inside ?? Prefix::query()->where('space_id', $scope->prefix->space_id)->where('family', 6)
            ->where('kind', PrefixKind::Subnet)
            ->where('first', '<=', $pool->first->bytes)->orderByDesc('first')->limit(1)->get()
            ->first(static fn (Prefix $p): bool => $p->prefix()->contains($pool));
    }

    private static function sayPlanned(Ledger $ledger, Scope $scope, Delegation $one): void
    {
        $planned = Prefix::query()->where('space_id', $scope->prefix->space_id)->where('family', 6)->where('kind', PrefixKind::Pool)
            ->where('first', '<=', $one->pool->first->bytes)->orderByDesc('first')->orderBy('length')->limit(20)->get()
            ->contains(static fn (Prefix $p): bool => $p->prefix()->contains($one->pool));
        if (! $planned) {
            $ledger->warn(
                'delegation-unplanned',
                "$one->pool is no pool of the plan",
                'Nothing keeps it from being carved for subnets. Make it a pool, so that the plan shows what is handed out.',
                null,
                'delegations',
            );
        }
        if ($one->length % 4 !== 0) {
            $ledger->warn(
                'off-nibble',
                "Parts of /$one->length end inside a hexadecimal digit",
                'A router cannot be given the reverse zone of such a part alone.',
                'RFC 3596 §2.5',
                'delegations',
            );
        }
    }

    /** @param  list<Delegation>  $wanted */
    private static function sayCutOff(Ledger $ledger, Scope $scope, array $wanted): void
    {
        $cut = InUse::activeLeases()->where('scope_id', $scope->id)->where('length', '>', 0);
        foreach ($wanted as $one) {
            $cut->whereNot(
                fn ($q) => $q->whereBetween('address', [$one->pool->first->bytes, $one->pool->last()->bytes])
                    ->where('length', $one->length),
            );
        }
        $count = $cut->count();
        if ($count > 0) {
            $ledger->warn(
                'leases-cut-off',
                $count === 1 ? '1 prefix that is out lies outside of the pools now'
                    : "$count prefixes that are out lie outside of the pools now",
                'Their routers get another prefix when they next ask, and everything behind them is renumbered.',
                'RFC 8415 §18.3.4',
                'delegations',
                at('lease.scope', $scope->id),
            );
        }
    }
}
