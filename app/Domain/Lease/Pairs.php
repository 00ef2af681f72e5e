<?php

declare(strict_types=1);

namespace App\Domain\Lease;

use App\Acts\Engine\Ledger;
use App\Models\Pair;
use App\Models\Scope;
use App\Models\ScopeRange;
use App\Models\ScopeServer;
use App\Models\Server;
use App\Models\ServerKind;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Ttl;
use HarborPost\Core\Exchange\Shares;
use HarborPost\Core\Net\AddressRange;

/** What acts on pairs share: how a scope comes into one and out of it, and what its terms may be. */
final class Pairs
{
    /** Seconds: shorter ones make every client renew all the time, longer ones keep addresses for long when a server is lost. */
    private const LEAD = [60, 86400];

    public static function lead(Ledger $ledger, string $text): int
    {
        try {
            $seconds = Ttl::parse(trim($text))->seconds;
        } catch (Malformed) {
            $ledger->refuse('bad-lead', "\"$text\" is no time", 'Seconds, or with units: 30m, 1h.', 'RFC 8156 §4.4', 'lead');
        }
        if ($seconds < self::LEAD[0] || $seconds > self::LEAD[1]) {
            $ledger->refuse(
                'bad-lead',
                'A lease may run ahead of the partner by a minute to a day',
                'An hour is usual: new clients renew after half of it once, and the other server takes over all addresses an hour after it '
                    .'was told that its partner is off.',
                'RFC 8156 §4.4',
                'lead',
            );
        }

        return $seconds;
    }

    /** The pair of that id; null where none is named. */
    public static function named(Ledger $ledger, string $id): ?Pair
    {
        return $id === ''
            ? null
            : Pair::query()->with(['first', 'second'])->find($id)
                ?? $ledger->refuse('gone', 'The pair is not there any more', field: 'pair');
    }

    public static function dhcp(Ledger $ledger, string $id, string $field): Server
    {
        return Server::query()->whereKey($id)->where('kind', ServerKind::Dhcp)->first()
            ?? $ledger->refuse('no-server', 'Choose a DHCP server', field: $field);
    }

    /** Both servers have the scope, and both have all of its ranges. */
    public static function join(Ledger $ledger, Scope $scope, Pair $pair): void
    {
        $ranges = array_values($scope->ranges->map(fn (ScopeRange $r): AddressRange => $r->range())->all());
        if ($scope->ranges->contains(fn (ScopeRange $r): bool => $r->class_id !== null)) {
            $ledger->refuse(
                'kept-range',
                "A range of $scope->name is kept for a class, or closed to one",
                'Open it first; in the pair it can be kept again.',
                null,
                'scopes',
                at('lease.scope', $scope->id),
            );
        }
        $scope->pair_id = $pair->id;
        $scope->version = (int) $scope->getOriginal('version') + 1;
        $scope->save();
        $servers = array_values($pair->servers());
        self::place($scope, $servers);
        $texts = array_map(strval(...), Shares::joined($ranges));
        ScopeRanges::write($ledger, $scope, $scope->prefix, $texts, $servers, false);
    }

    /** Out of the pair: each of its servers has a share again, so that no address is leased by both. */
    public static function leave(Ledger $ledger, Scope $scope, Pair $pair): void
    {
        $scope->pair_id = null;
        $scope->version = (int) $scope->getOriginal('version') + 1;
        $scope->save();
        $texts = array_values($scope->ranges->map(fn (ScopeRange $r): string => (string) $r->range())->all());
        ScopeRanges::write($ledger, $scope, $scope->prefix, $texts, array_values($pair->servers()), true);
    }

    /** @param  list<Server>  $servers */
    public static function place(Scope $scope, array $servers): void
    {
        $ids = array_map(static fn (Server $s): string => $s->id, $servers);
        foreach ($scope->placements()->get() as $placement) {
            in_array($placement->server_id, $ids, true) || $placement->delete();
        }
        $there = $scope->placements()->pluck('server_id')->all();
        foreach ($ids as $id) {
            in_array($id, $there, true) || (new ScopeServer(['scope_id' => $scope->id, 'server_id' => $id]))->save();
        }
        $scope->load('placements.server');
    }

    /** A scope of a pair is changed as the pair is: its servers and shares follow from it. */
    public static function refuseShares(Ledger $ledger, Scope $scope, string $field): void
    {
        if ($scope->pair_id !== null) {
            $ledger->refuse(
                'in-pair',
                "$scope->name is leased by the pair {$scope->pair?->name}",
                'Its servers and what is whose follow from the pair. Take it out of the pair first.',
                null,
                $field,
                at('lease.pair', $scope->pair_id),
            );
        }
    }
}
