<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\Bits;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\Prefix;

/** A subnet as its runs: never one entry per address, whatever its size. */
final class Runs
{
    /**
     * Every address of the subnet is in exactly one run; runs are in address order and neighbours differ.
     *
     * @param  list<Address>  $assigned  hosts with an address of their own
     * @param  list<array{AddressRange, RunKind, ?string}>  $marked  held, excluded and dynamic stretches, with a note
     * @param  list<Address>  $leased  addresses with a lease, counted in dynamic runs
     * @return list<Run>
     */
    public static function of(Prefix $subnet, ?Address $gateway, array $assigned, array $marked = [], array $leased = []): array
    {
        $stretches = self::ends($subnet);
        if ($gateway !== null && $subnet->contains($gateway)) {
            $stretches[] = [AddressRange::of($gateway, $gateway), RunKind::Gateway, null];
        }
        foreach (self::joined($assigned) as $range) {
            $stretches[] = [$range, RunKind::Assigned, null];
        }

        return self::counted(self::layered($subnet, [...$stretches, ...$marked]), $assigned, $leased, $gateway);
    }

    /** @return list<array{AddressRange, RunKind, ?string}> the addresses at the ends that no host may have */
    private static function ends(Prefix $subnet): array
    {
        $usable = $subnet->usable();
        $ends = [];
        if (! $usable->first->equals($subnet->first)) {
            $ends[] = [
                AddressRange::of($subnet->first, $subnet->first),
                $subnet->family() === Family::V4 ? RunKind::Network : RunKind::Anycast,
                null,
            ];
        }
        if (! $usable->last->equals($subnet->last())) {
            $ends[] = [AddressRange::of($subnet->last(), $subnet->last()), RunKind::Broadcast, null];
        }

        return $ends;
    }

    /**
     * Cuts the subnet at every end of a stretch and gives each piece its strongest condition.
     *
     * @param  list<array{AddressRange, RunKind, ?string}>  $stretches
     * @return list<array{string, string, RunKind, ?string}> first and last bytes
     */
    private static function layered(Prefix $subnet, array $stretches): array
    {
        $rank = array_flip(array_map(static fn (RunKind $kind): string => $kind->value, RunKind::cases()));
        $events = [];
        $whole = $subnet->range();
        $stretches[] = [$whole, RunKind::Open, null];
        foreach ($stretches as $i => [$range]) {
            $first = strcmp($range->first->bytes, $whole->first->bytes) < 0 ? $whole->first->bytes : $range->first->bytes;
            $last = strcmp($range->last->bytes, $whole->last->bytes) > 0 ? $whole->last->bytes : $range->last->bytes;
            if (strlen($first) === strlen($whole->first->bytes) && strcmp($first, $last) <= 0) {
                $events[] = [$first, 0, $i];
                $after = Bits::next($last);
                if ($after !== null) {
                    $events[] = [$after, 1, $i];
                }
            }
        }
        usort($events, static fn (array $a, array $b): int => strcmp($a[0], $b[0]) ?: $b[1] <=> $a[1]);
        $active = new \SplMinHeap;
        $ended = [];
        $pieces = [];
        $count = count($events);
        for ($e = 0; $e < $count;) {
            $point = $events[$e][0];
            for (; $e < $count && $events[$e][0] === $point; $e++) {
                [, $ends, $i] = $events[$e];
                $ends === 1 ? $ended[$i] = true : $active->insert([$rank[$stretches[$i][1]->value], $i]);
            }
            while (! $active->isEmpty() && isset($ended[self::index($active->top())])) {
                $active->extract();
            }
            if ($active->isEmpty()) {
                break;
            }
            [, $kind, $note] = $stretches[self::index($active->top())];
            $last = $e < $count ? (string) Bits::previous($events[$e][0]) : $whole->last->bytes;
            $top = count($pieces) - 1;
            if ($top >= 0 && $pieces[$top][2] === $kind && $pieces[$top][3] === $note) {
                $pieces[$top][1] = $last;
            } else {
                $pieces[] = [$point, $last, $kind, $note];
            }
        }

        return $pieces;
    }

    private static function index(mixed $entry): int
    {
        return is_array($entry)
            && is_int($entry[1] ?? null) ? $entry[1] : throw new \LogicException('the heap holds pairs of rank and index');
    }

    /**
     * @param  list<array{string, string, RunKind, ?string}>  $pieces
     * @param  list<Address>  $assigned
     * @param  list<Address>  $leased
     * @return list<Run>
     */
    private static function counted(array $pieces, array $assigned, array $leased, ?Address $gateway): array
    {
        $used = array_map(
            static fn (Address $a): string => $a->bytes,
            [...$assigned, ...$leased, ...($gateway === null ? [] : [$gateway])],
        );
        sort($used, SORT_STRING);
        $at = 0;
        $runs = [];
        foreach ($pieces as [$first, $last, $kind, $note]) {
            $inUse = 0;
            $previous = null;
            for (; isset($used[$at]) && strcmp($used[$at], $last) <= 0; $at++) {
                if (strcmp($used[$at], $first) >= 0 && $used[$at] !== $previous) {
                    $inUse++;
                }
                $previous = $used[$at];
            }
            $runs[] = new Run(AddressRange::of(Address::fromBytes($first), Address::fromBytes($last)), $kind, $inUse, $note);
        }

        return $runs;
    }

    /**
     * @param  list<Address>  $addresses
     * @return list<AddressRange>
     */
    private static function joined(array $addresses): array
    {
        $sorted = array_map(static fn (Address $a): string => $a->bytes, $addresses);
        sort($sorted, SORT_STRING);
        $ranges = [];
        $first = $last = null;
        foreach ([...$sorted, null] as $bytes) {
            if ($bytes !== null && $last !== null && ($bytes === $last || $bytes === Bits::next($last))) {
                $last = $bytes;

                continue;
            }
            if ($first !== null && $last !== null) {
                $ranges[] = AddressRange::of(Address::fromBytes($first), Address::fromBytes($last));
            }
            $first = $last = $bytes;
        }

        return $ranges;
    }
}
