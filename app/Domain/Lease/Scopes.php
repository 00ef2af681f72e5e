<?php

declare(strict_types=1);

namespace App\Domain\Lease;

use App\Acts\Engine\Ledger;
use App\Models\Prefix;
use App\Models\Scope;
use App\Models\ScopeExclusion;
use App\Models\ScopeRange;
use App\Models\ScopeServer;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Stage;
use App\Queries\InUse;
use App\Queries\OwnOptions;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Ttl;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\NotUnderstood;
use Illuminate\Database\Eloquent\Collection;

/** A scope is written, by whichever act, and what stands against it is said. */
final class Scopes
{
    /**
     * The scopes of a selection, all of them or none.
     *
     * @param  list<string>  $ids
     * @param  list<string>  $with  relations
     * @return Collection<int, Scope>
     */
    public static function picked(Ledger $ledger, array $ids, array $with): Collection
    {
        $scopes = Scope::query()->with($with)->whereIn('id', $ids)->orderBy('name')->get();
        if ($scopes->isEmpty() || $scopes->count() !== count(array_unique($ids))) {
            $ledger->refuse('gone', 'A scope of the selection is not there any more', 'Pick anew.');
        }

        return $scopes;
    }

    public static function checkSubnet(Ledger $ledger, Prefix $subnet, string $field): void
    {
        if (! $subnet->isSubnet()) {
            $ledger->refuse(
                'no-subnet',
                "{$subnet->line()} is no subnet",
                'A scope leases addresses of a subnet.',
                null,
                $field,
            );
        }
    }

    public static function sayNoGateway(Ledger $ledger, Prefix $subnet): void
    {
        $ledger->warn(
            'no-gateway',
            "{$subnet->line()} has no gateway",
            'Its clients get no router, and no relay stands for it.',
            'RFC 2132 §3.5',
            'prefixes',
            at('plan.prefix', $subnet->id),
        );
    }

    /** Some things are told of DHCPv4 alone. */
    public static function refuseV6(Ledger $ledger, Scope $scope, string $what, string $field): void
    {
        if ($scope->prefix->family === 6) {
            $ledger->refuse(
                'not-in-v6',
                "$scope->name leases IPv6: $what",
                'Leave it out of the selection.',
                null,
                $field,
                at('lease.scope', $scope->id),
            );
        }
    }

    /** For how long new connections may begin with a lease: at most for as long as it is valid. */
    public static function preferred(Ledger $ledger, Prefix $subnet, string $text, int $valid): ?int
    {
        if (trim($text) === '') {
            return null;
        }
        if ($subnet->family !== 6) {
            $ledger->refuse('preferred-of-v4', 'Only leases of IPv6 have a preferred life', 'Leave it blank.', null, 'preferred');
        }
        try {
            $seconds = trim($text) === 'infinite' ? Scope::INFINITE : Ttl::parse(trim($text))->seconds;
        } catch (Malformed) {
            $ledger->refuse('bad-lease-time', "\"$text\" is no time", 'Seconds, or with units: 8h, 3d.', 'RFC 8415 §21.6', 'preferred');
        }
        if ($seconds > $valid || $seconds < 60) {
            $ledger->refuse(
                'preferred-beyond-valid',
                'The preferred life is from a minute to the lease time, '
                    .($valid === Scope::INFINITE ? 'which has no end' : Ttl::of($valid)->spoken()),
                'Clients throw away a lease whose preferred life is the longer one.',
                'RFC 8415 §21.6',
                'preferred',
            );
        }

        return $seconds;
    }

    public static function make(Ledger $ledger, Prefix $subnet, NewScope $new): Scope
    {
        $twin = Scope::query()->where('prefix_id', $subnet->id)->first();
        if ($twin !== null) {
            $ledger->refuse('scope-twice', "The subnet has the scope $twin->name", field: 'prefix', link: at('lease.scope', $twin->id));
        }
        if ($subnet->stage === Stage::Planned && $new->stage === Stage::Live) {
            $ledger->warn(
                'subnet-planned',
                'The subnet is still planned',
                'Servers would lease addresses of a link that is not there yet.',
            );
        }
        $scope = new Scope([
            'id' => $new->id, 'prefix_id' => $subnet->id, 'name' => $new->name ?: ($subnet->name ?: (string) $subnet->prefix()),
            'stage' => $new->stage, 'lease_time' => $new->leaseTime, 'description' => $new->description, 'pair_id' => $new->pair?->id,
            'preferred_time' => $new->preferred, 'rapid_commit' => $new->rapid, 'autonomous' => $new->autonomous,
        ]);
        $scope->setRelation('prefix', $subnet);
        $new->pair === null ?: self::refuseV6($ledger, $scope, 'pairs lease IPv4', 'pair');
        $scope->save();
        foreach ($new->servers as $server) {
            (new ScopeServer(['scope_id' => $scope->id, 'server_id' => $server->id]))->save();
        }
        ScopeRanges::write($ledger, $scope, $subnet, $new->ranges, $new->servers, $new->divide);
        self::writeExclusions($ledger, $scope, $new->exclusions);
        Delegations::write($ledger, $scope, $new->delegations, $new->servers, $new->divide);
        self::sayLink($ledger, $scope, $new->delegations !== []);
        $scope->stage === Stage::Planned || LinkShare::say($ledger, $subnet, $subnet->vlan_id);
        foreach ($new->options as $code => $text) {
            if (trim($text) !== '') {
                $values = OwnOptions::now()->typed($code, $text, $subnet->prefix()->family());
                Options::write($ledger, OptionPlace::ofScope($scope), $code, $values, family: $subnet->prefix()->family());
            }
        }

        return $scope;
    }

    /** What clients of an IPv6 link are told by its router, so that they ask for what the scope answers. */
    private static function sayLink(Ledger $ledger, Scope $scope, bool $delegates): void
    {
        if ($scope->prefix->family !== 6) {
            return;
        }
        $says = $scope->advertisement();
        $ledger->later(match (true) {
            $says->managed => 'Clients ask for an address once the router advertises M'
                .($says->autonomous ? '; with A they make their own too' : ''),
            $delegates => 'Routers are delegated prefixes; hosts make addresses of their own and are told the rest',
            default => 'Nothing is leased here: hosts make addresses of their own and are told the rest',
        });
        if ($says->autonomous && $scope->prefix->length !== 64) {
            $ledger->warn(
                'no-own-addresses',
                "Hosts make addresses of their own only in a /64, and this is {$scope->prefix->prefix()}",
                'Lease addresses, or take a /64.',
                'RFC 4862 §5.5.3',
                'autonomous',
            );
        }
    }

    public static function leaseTime(Ledger $ledger, string $text): int
    {
        if (strtolower(trim($text)) === 'infinite' || trim($text) === (string) Scope::INFINITE) {
            $ledger->warn(
                'infinite-lease',
                'A lease without an end is never given back by a client that goes',
                'The pool fills with clients of long ago, and no change of an option reaches them by renewal.',
                'RFC 2131 §3.3',
                'leaseTime',
            );

            return Scope::INFINITE;
        }
        try {
            $seconds = Ttl::parse(trim($text))->seconds;
        } catch (Malformed) {
            $ledger->refuse('bad-lease-time', "\"$text\" is no time", 'Seconds, or with units: 8h, 3d.', 'RFC 2132 §9.2', 'leaseTime');
        }
        if ($seconds < 60) {
            $ledger->refuse(
                'short-lease',
                'A lease of less than a minute renews all the time',
                standard: 'RFC 2131 §4.4.5',
                field: 'leaseTime',
            );
        }
        if ($seconds < 600) {
            $ledger->warn(
                'short-lease',
                'A lease this short renews every '.Ttl::of(intdiv($seconds, 2))->spoken(),
                'Every client asks that often; a server that is away is felt at once.',
                'RFC 2131 §4.4.5',
                'leaseTime',
            );
        }

        return $seconds;
    }

    /**
     * @param  list<string>  $ids
     * @return list<Server>
     */
    public static function servers(Ledger $ledger, array $ids): array
    {
        $servers = Server::query()->whereIn('id', $ids)->where('kind', ServerKind::Dhcp)->orderBy('name')->get()->all();
        if ($servers === []) {
            $ledger->warn('no-servers', 'No DHCP server is chosen', 'Nobody leases the scope.', null, 'servers');
        } elseif (count($servers) === 1) {
            $ledger->warn(
                'one-server',
                "Only {$servers[0]->name} leases this scope",
                'One outage leaves new clients without an address.',
                null,
                'servers',
            );
        }

        return array_values($servers);
    }

    /** @param  list<string>  $texts */
    public static function writeExclusions(Ledger $ledger, Scope $scope, array $texts): void
    {
        foreach ($texts as $text) {
            try {
                $range = AddressRange::parse($text);
            } catch (NotUnderstood $e) {
                $ledger->refuse('bad-range', $e->getMessage(), field: 'exclusions');
            }
            $inside = ScopeRange::query()->where('scope_id', $scope->id)->get()
                ->contains(fn (ScopeRange $r): bool => $r->range()->overlaps($range));
            if (! $inside) {
                $ledger->warn(
                    'exclusion-outside',
                    "$range is in no range of the scope",
                    'Excluding it changes nothing.',
                    null,
                    'exclusions',
                );
            }
            (new ScopeExclusion(['scope_id' => $scope->id, 'first' => $range->first, 'last' => $range->last]))->save();
        }
    }

    public static function remove(Ledger $ledger, Scope $scope): void
    {
        $scope->loadMissing(['ranges', 'exclusions', 'delegations', 'placements', 'reservations.optionValues', 'optionValues']);
        $leases = InUse::activeLeases()->where('scope_id', $scope->id)->count();
        if ($leases > 0) {
            $ledger->warn(
                'leases-run-on',
                "$leases leases of $scope->name run on until they end",
                'Their clients cannot renew once this is shipped.',
                'RFC 2131 §4.4.5',
                null,
                at('lease.scope', $scope->id),
            );
        }
        if ($scope->reservations->isNotEmpty()) {
            $ledger->warn('with-reservations', "{$scope->reservations->count()} reservations of $scope->name go with it");
        }
        $ledger->later("The servers of $scope->name lease on until this is shipped");
        $scope->stage === Stage::Planned || LinkShare::say($ledger, $scope->prefix, $scope->prefix->vlan_id);
        foreach ([$scope->ranges, $scope->exclusions, $scope->delegations, $scope->placements, $scope->reservations,
            $scope->optionValues] as $rows) {
            $rows->each->delete();
        }
        $scope->delete();
    }
}
