<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Prefix;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix as Net;
use Illuminate\Database\Eloquent\Collection;

/** The prefixes above a prefix or address, found by key: one row can start at each of the at most 33 or 129 places. */
final class Ancestors
{
    /**
     * Those that hold it or are equal, the shortest first; a supernet before the subnet that fills it.
     *
     * @return Collection<int, Prefix>
     */
    public static function of(string $space, Net|Address $inner): Collection
    {
        $net = $inner instanceof Net ? $inner : $inner->in($inner->family->bits());
        $firsts = [];
        for ($length = 0; $length <= $net->length; $length++) {
            $firsts[bin2hex($net->first->in($length)->first->bytes)] = $net->first->in($length)->first->bytes;
        }

        return Prefix::query()->where('space_id', $space)->where('family', $net->family()->value)
            ->whereIn('first', array_values($firsts))->where('length', '<=', $net->length)
            ->orderBy('length')->orderByDesc('groups')->get()
            ->filter(fn (Prefix $p): bool => $p->prefix()->contains($net))->values();
    }

    /** The supernet that holds a prefix directly. */
    public static function holder(string $space, Net $net, bool $groups, ?string $except = null): ?Prefix
    {
        return self::of($space, $net)->last(
            fn (Prefix $p): bool => $p->groups && $p->id !== $except && ($p->length < $net->length || ! $groups),
        );
    }

    /** The subnet in which an address lives. */
    public static function subnet(string $space, Address $address): ?Prefix
    {
        return self::of($space, $address)->last(fn (Prefix $p): bool => $p->isSubnet());
    }
}
