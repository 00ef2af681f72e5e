<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Bits;
use HarborPost\Core\Net\Prefix;

/**
 * Open blocks from which aligned ones are taken, one after the other. When they are asked for from the largest to the smallest,
 * a request fails only if no way of placing all of them exists: sizes are powers of two, so the smallest block that fits
 * never spoils a place for a later, smaller one.
 */
final class Blocks
{
    /** @var array<int, \SplMinHeap<string>> length → first addresses as bytes */
    private array $heaps = [];

    /** @param  iterable<Prefix>  $open  not overlapping */
    public function __construct(iterable $open)
    {
        foreach ($open as $block) {
            $this->give($block->first->bytes, $block->length);
        }
    }

    public function take(int $length, Fit $fit = Fit::Best): ?Prefix
    {
        $from = $fit === Fit::Best ? $this->closest($length) : $this->widest($length);
        if ($from === null) {
            return null;
        }
        $first = $this->heaps[$from]->extract();
        for ($at = $from; $at < $length; $at++) {
            $this->give(Bits::flip($first, $at), $at + 1);
        }

        return Prefix::of(Address::fromBytes($first), $length);
    }

    /** Length of the largest open block; null when nothing is open. */
    public function largest(): ?int
    {
        return $this->widest(128);
    }

    /** How many blocks of that length could still be taken. */
    public function count(int $length): int
    {
        $count = 0;
        foreach ($this->heaps as $at => $heap) {
            $count += $at <= $length && $length - $at < 62 ? $heap->count() << ($length - $at) : 0;
        }

        return $count;
    }

    private function give(string $first, int $length): void
    {
        if (! isset($this->heaps[$length])) {
            /** @var \SplMinHeap<string> $heap */
            $heap = new \SplMinHeap;
            $this->heaps[$length] = $heap;
        }
        $this->heaps[$length]->insert($first);
    }

    private function closest(int $length): ?int
    {
        for ($at = $length; $at >= 0; $at--) {
            if (isset($this->heaps[$at]) && ! $this->heaps[$at]->isEmpty()) {
                return $at;
            }
        }

        return null;
    }

    private function widest(int $length): ?int
    {
        for ($at = 0; $at <= $length; $at++) {
            if (isset($this->heaps[$at]) && ! $this->heaps[$at]->isEmpty()) {
                return $at;
            }
        }

        return null;
    }
}
