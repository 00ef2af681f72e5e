<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Lease;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\ScopeDelegation;
use HarborPost\Core\Net\Prefix as Net;
use Illuminate\Database\Eloquent\Collection;

/** What a pool of IPv6 hands out: the scopes that delegate parts of it, and the parts that are out. */
final readonly class HandedOut
{
    public const LISTED = 100;

    /**
     * @param  Collection<int, ScopeDelegation>  $delegations
     * @param  Collection<int, Lease>  $leases  in the order of their addresses
     */
    private function __construct(public Collection $delegations, public Collection $leases, public int $count)
    {
    }

    /** A pool that overlaps the prefix, of any scope but one. Pools are apart, so that of those before it the nearest is enough. */
    public static function overlapping(string $space, Net $net, ?string $except = null): ?ScopeDelegation
    {
        $pools = ScopeDelegation::query()->with('scope')->when($except, fn ($q) => $q->where('scope_id', '!=', $except))
            ->whereHas('scope.prefix', fn ($q) => $q->where('space_id', $space));

        return (clone $pools)->whereBetween('first', [$net->first->bytes, $net->last()->bytes])->first()
            ?? (clone $pools)->where('first', '<=', $net->first->bytes)->orderByDesc('first')->limit(1)->get()
                ->first(static fn (ScopeDelegation $d): bool => $d->delegation()->pool->contains($net));
    }

    /** Null for a prefix that hands out nothing. */
    public static function of(Prefix $pool, Reach $reach): ?self
    {
        if ($pool->kind !== PrefixKind::Pool || $pool->family !== 6) {
            return null;
        }
        $bytes = [$pool->first->bytes, $pool->prefix()->last()->bytes];
        $scopes = $reach->scopes()->whereHas('prefix', fn ($q) => $q->where('space_id', $pool->space_id))->select('scopes.id');
        $delegations = ScopeDelegation::query()->with(['scope', 'server'])->whereIn('scope_id', clone $scopes)
            ->whereBetween('first', $bytes)->orderBy('first')->limit(self::LISTED)->get();
        $leases = InUse::activeLeases()->with('server')->whereIn('scope_id', $scopes)->where('length', '>', 0)
            ->whereBetween('address', $bytes)->whereRaw('LENGTH(address) = 16')->orderBy('address');

        return new self($delegations, (clone $leases)->limit(self::LISTED)->get(), $leases->count());
    }
}
