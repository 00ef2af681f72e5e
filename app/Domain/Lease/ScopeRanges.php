<?php

declare(strict_types=1);

namespace App\Domain\Lease;

use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Host;
use App\Models\Lease;
use App\Models\Prefix;
use App\Models\Scope;
use App\Models\ScopeRange;
use App\Models\Server;
use App\Queries\InUse;
use HarborPost\Core\Exchange\Shares;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Planning\RangeRule;

/**
 * The ranges of a scope and who leases them. Several servers that do not talk to each other have a share each: an address that two may
 * give out is given out twice.
 */
final class ScopeRanges
{
    /**
     * Brings the rows to what is written, "first-last" or a rule such as "all but the first 20", with "@server" behind it for a share; rows
     * that stay are not touched.
     *
     * @param  list<string>  $texts
     * @param  list<Server>  $servers  those of the scope
     */
    public static function write(Ledger $ledger, Scope $scope, Prefix $subnet, array $texts, array $servers, bool $divide): void
    {
        Guard::own("ranges:$subnet->id");
        $read = array_merge(...array_map(static fn (string $t): array => self::read($ledger, $subnet, $t, $servers), $texts));
        $wanted = self::divided($ledger, $read, $servers, $divide, $scope->pair_id !== null);
        $taken = [];
        foreach ($wanted as [$range]) {
            self::checkPlace($ledger, $subnet, $range, $taken);
            $taken[] = $range;
        }
        $rows = ScopeRange::query()->where('scope_id', $scope->id)->get()
            ->keyBy(fn (ScopeRange $r): string => $r->range()." $r->server_id");
        foreach ($wanted as [$range, $server]) {
            $key = "$range ".($server->id ?? '');
            if ($rows->has($key)) {
                $rows->forget([$key]);
            } else {
                (
                    new ScopeRange([
                        'scope_id' => $scope->id, 'server_id' => $server?->id, 'first' => $range->first, 'last' => $range->last,
                    ])
                )->save();
                self::sayInside($ledger, $subnet, $range);
            }
        }
        foreach ($rows as $row) {
            $row->delete();
        }
        self::sayWhole($ledger, $taken, $servers, $wanted);
        self::sayCutOff($ledger, $scope, $wanted);
    }

    /**
     * @return list<string> the present ranges as they are written, for an edit that does not touch them
     */
    public static function texts(Scope $scope): array
    {
        $names = $scope->loadMissing('placements.server')->placements->pluck('server.name', 'server_id');

        return array_values(
            $scope->ranges
                ->map(fn (ScopeRange $r): string => $r->range().($r->server_id === null ? '' : '@'.($names[$r->server_id] ?? '')))
                ->all(),
        );
    }

    /**
     * @param  list<Server>  $servers
     * @return list<array{AddressRange, ?Server}> several where a rule goes around the gateway
     */
    private static function read(Ledger $ledger, Prefix $subnet, string $text, array $servers): array
    {
        [$addresses, $name] = [...explode('@', $text, 2), null];
        $ranges = self::ranges($ledger, $subnet, trim((string) $addresses));
        if ($name === null) {
            return array_map(static fn (AddressRange $r): array => [$r, null], $ranges);
        }
        foreach ($servers as $server) {
            if ($server->name === trim($name)) {
                return array_map(static fn (AddressRange $r): array => [$r, $server], $ranges);
            }
        }
        $range = $ranges[0];
        $leases = InUse::activeLeases()->whereBetween('address', [$range->first->bytes, $range->last->bytes])
            ->whereIn('server_id', Server::query()->where('name', trim($name))->select('id'))->count();
        $ledger->refuse(
            'share-orphaned',
            "$range is the share of \"$name\", which is not chosen here".($leases > 0 ? ": it has $leases active leases there" : ''),
            'Give the share to a server of the scope, or divide the ranges anew.',
            null,
            'ranges',
        );
    }

    /** @return non-empty-list<AddressRange> */
    private static function ranges(Ledger $ledger, Prefix $subnet, string $text): array
    {
        try {
            $whole = AddressRange::tryParse($text);
            if ($whole !== null) {
                return [$whole];
            }
            // A rule is words, or host parts alone; several ranges in a line are apart by spaces.
            if ($subnet->family === 4 && preg_match('/\A(?:[a-z]|\.\d)/i', $text) === 1) {
                return RangeRule::parse($text)->in($subnet->prefix(), $subnet->gateway);
            }

            return array_map(AddressRange::parse(...), preg_split('/\s+/', $text) ?: [$text]);
        } catch (NotUnderstood $e) {
            $ledger->refuse('bad-range', $e->getMessage(), field: 'ranges');
        }
    }

    /**
     * @param  list<array{AddressRange, ?Server}>  $ranges
     * @param  list<Server>  $servers
     * @return list<array{AddressRange, ?Server}>
     */
    private static function divided(Ledger $ledger, array $ranges, array $servers, bool $divide, bool $paired): array
    {
        if (count($servers) < 2 || $paired) {
            foreach ($paired ? $ranges : [] as [$range, $server]) {
                if ($server !== null) {
                    $ledger->refuse(
                        'in-pair',
                        "$range cannot be the share of $server->name: the scope is leased by a pair",
                        'Both servers of a pair have all ranges.',
                        null,
                        'ranges',
                    );
                }
            }

            return $ranges;
        }
        $shares = [];
        $undivided = null;
        foreach ($ranges as [$range, $server]) {
            if ($server !== null) {
                $shares[] = [$range, $server];

                continue;
            }
            $undivided ??= $range;
            foreach (Shares::divide($range, count($servers)) as $i => $share) {
                $shares[] = [$share, $servers[$i]];
            }
        }
        if ($undivided !== null && ! $divide) {
            $offer = implode("\n", array_map(static fn (array $s): string => "$s[0]@{$s[1]->name}", $shares));
            $ledger->refuse(
                'undivided',
                "$undivided would be leased by "
                    .implode(' and ', array_map(static fn (Server $s): string => $s->name, $servers))
                    .', each without knowing of the other',
                'The same address would be given to two clients. Give each server a share.',
                'RFC 2131 §3.1',
                'ranges',
                null,
                $offer,
            );
        }

        return $shares;
    }

    /** @param  list<AddressRange>  $taken */
    private static function checkPlace(Ledger $ledger, Prefix $subnet, AddressRange $range, array $taken): void
    {
        $net = $subnet->prefix();
        if (! $net->usable()->contains($range)) {
            $ledger->refuse(
                'range-outside',
                "$range is not inside the usable addresses of $net",
                "Usable are {$net->usable()}.",
                null,
                'ranges',
            );
        }
        if ($subnet->gateway !== null && $range->contains($subnet->gateway)) {
            $ledger->refuse(
                'gateway-in-range',
                "The gateway $subnet->gateway is inside $range",
                'A server would lease it out. Start the range behind it.',
                null,
                'ranges',
            );
        }
        foreach ($taken as $other) {
            if ($range->overlaps($other)) {
                $ledger->refuse(
                    'range-overlap',
                    "$range overlaps $other",
                    'Two servers, or one twice, would lease the same address.',
                    null,
                    'ranges',
                );
            }
        }
    }

    private static function sayInside(Ledger $ledger, Prefix $subnet, AddressRange $range): void
    {
        $bytes = [$range->first->bytes, $range->last->bytes];
        foreach (Server::query()->whereBetween('address', $bytes)->whereRaw('LENGTH(address) = 4')->get() as $server) {
            $ledger->warn(
                'server-in-range',
                "The server $server->name has its address $server->address inside $range",
                'Servers keep fixed addresses; exclude it.',
                null,
                'ranges',
                at('ship.server', $server->id),
            );
        }
        foreach (Host::query()->where('prefix_id', $subnet->id)->whereBetween('address', $bytes)->limit(4)->get() as $host) {
            $ledger->warn(
                'host-in-range',
                "{$host->line()} stands inside $range",
                'A server may lease its address; reserve or exclude it.',
                null,
                'ranges',
                at('plan.prefix', $subnet->id)."?address=$host->address",
            );
        }
    }

    /**
     * @param  list<AddressRange>  $taken
     * @param  list<Server>  $servers
     * @param  list<array{AddressRange, ?Server}>  $wanted
     */
    private static function sayWhole(Ledger $ledger, array $taken, array $servers, array $wanted): void
    {
        if ($taken === []) {
            return;
        }
        foreach (count($servers) > 1 ? Shares::gaps($taken) : [] as $gap) {
            $ledger->warn(
                'share-gap',
                "$gap between the shares is leased by nobody",
                'Close the gap, or leave it on purpose.',
                null,
                'ranges',
            );
        }
        foreach ($servers as $server) {
            $has = array_filter($wanted, static fn (array $w): bool => $w[1] === null || $w[1]->id === $server->id);
            if ($has === []) {
                $ledger->warn('no-share', "$server->name has no share of the ranges", 'It answers reservations only.', null, 'ranges');
            }
        }
        $ledger->passed('ranges', 'The ranges are inside the subnet, apart from the gateway and from each other');
    }

    /**
     * Active leases that their server may not give out any more.
     *
     * @param  list<array{AddressRange, ?Server}>  $wanted
     */
    private static function sayCutOff(Ledger $ledger, Scope $scope, array $wanted): void
    {
        $cut = InUse::activeLeases()->where('scope_id', $scope->id)
            ->whereNotExists(
                fn ($q) => $q->from('reservations')->whereColumn('reservations.scope_id', 'leases.scope_id')
                    ->whereColumn('reservations.address', 'leases.address'),
            );
        foreach ($wanted as [$range, $server]) {
            $cut->whereNot(
                fn ($q) => $q->whereBetween('address', [$range->first->bytes, $range->last->bytes])
                    ->when($server, fn ($w) => $w->where('server_id', $server?->id)),
            );
        }
        $count = (clone $cut)->count();
        if ($count > 0) {
            $some = Lease::query()->with('server')->whereKey((clone $cut)->orderBy('address')->limit(3)->pluck('id'))
                ->get()->map(fn (Lease $l): string => "$l->address of {$l->server->name}")->implode(', ');
            $ledger->warn(
                'leases-cut-off',
                $count === 1
                    ? '1 active lease lies outside what its server may lease now'
                    : "$count active leases lie outside what their servers may lease now",
                "Their clients get another address when they next ask: $some.",
                null,
                'ranges',
                at('lease.scope', $scope->id),
            );
        }
    }
}
