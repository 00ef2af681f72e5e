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
    /** Prefixes whose ancestors are read in one statement. */
    private const MANY = 200;

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

    /**
     * What {@see self::of()} tells of each, read in a few statements.
     *
     * @param  iterable<Prefix>  $rows
     * @return array<string, list<Prefix>> prefix → those that hold it or are equal
     */
    public static function ofMany(iterable $rows): array
    {
        $found = [];
        $trees = [];
        foreach ($rows as $row) {
            $trees["$row->space_id $row->family"][$row->id] = $row;
        }
        foreach ($trees as $tree => $all) {
            [$space, $family] = explode(' ', $tree);
            foreach (array_chunk($all, self::MANY, true) as $some) {
                $firsts = [];
                foreach ($some as $id => $row) {
                    for ($length = 0; $length <= $row->length; $length++) {
                        $first = $row->first->in($length)->first->bytes;
                        $firsts[bin2hex($first)] = $first;
                    }
                }
                $above = Prefix::query()->where('space_id', $space)->where('family', (int) $family)
                    ->whereIn('first', array_values($firsts))->orderBy('length')->orderByDesc('groups')->get()
                    ->groupBy(static fn (Prefix $p): string => bin2hex($p->first->bytes)." $p->length");
                foreach ($some as $id => $row) {
                    $found[$id] = [];
                    for ($length = 0; $length <= $row->length; $length++) {
                        $key = bin2hex($row->first->in($length)->first->bytes)." $length";
                        array_push($found[$id], ...($above[$key] ?? []));
                    }
                }
            }
        }

        return $found;
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
