<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\Bits;
use HarborPost\Core\Net\Prefix;

/**
 * What is left of prefixes when used ones are taken out, as the fewest aligned blocks, and where the next ones go.
 *
 * Blocks are pairs of first bytes and length; they become {@see Prefix} values only when asked for, because a walk over a
 * million used prefixes must not make a million objects.
 */
final readonly class OpenSpace
{
    /** @param  list<array{string, int}>  $blocks  in address order */
    private function __construct(private array $blocks)
    {
    }

    /**
     * @param  iterable<Prefix|AddressRange>  $used  in any order, may overlap, may reach beyond the prefix
     */
    public static function in(Prefix $whole, iterable $used): self
    {
        $stretches = [];
        foreach ($used as $part) {
            $stretches[] = $part instanceof Prefix ? $part->first->bytes.$part->last()->bytes : $part->first->bytes.$part->last->bytes;
        }

        return self::between($whole, $stretches);
    }

    /**
     * The same from packed stretches: first and last address as bytes, one after the other.
     *
     * @param  list<string>  $stretches  those of another family are passed over
     */
    public static function between(Prefix $whole, array $stretches): self
    {
        sort($stretches, SORT_STRING);
        $size = $whole->family()->bytes();
        $end = $whole->last()->bytes;
        $cursor = $whole->first->bytes;
        $blocks = [];
        foreach ($stretches as $stretch) {
            $last = substr($stretch, $size);
            if (strlen($last) !== $size || strcmp($last, $cursor) < 0) {
                continue;
            }
            $first = substr($stretch, 0, $size);
            if (strcmp($first, $end) > 0) {
                break;
            }
            if (strcmp($first, $cursor) > 0) {
                foreach (Bits::blocks($cursor, (string) Bits::previous($first)) as $block) {
                    $blocks[] = $block;
                }
            }
            $cursor = strcmp($last, $end) >= 0 ? null : Bits::next($last);
            if ($cursor === null) {
                return new self($blocks);
            }
        }

        return new self([...$blocks, ...Bits::blocks($cursor, $end)]);
    }

    /** @param  list<Prefix>  $blocks  open blocks already known, in any order */
    public static function ofBlocks(array $blocks): self
    {
        usort($blocks, static fn (Prefix $a, Prefix $b): int => $a->compare($b));

        return new self(array_map(static fn (Prefix $p): array => [$p->first->bytes, $p->length], $blocks));
    }

    /** The open space of several wholes together. */
    public function and(self $other): self
    {
        return self::ofBlocks([...$this->blocks(), ...$other->blocks()]);
    }

    /** @return list<Prefix> in address order */
    public function blocks(): array
    {
        return array_map(self::prefix(...), $this->blocks);
    }

    public function count(): int
    {
        return count($this->blocks);
    }

    /** The largest open block, the lowest of equals. */
    public function largest(): ?Prefix
    {
        $best = null;
        foreach ($this->blocks as $block) {
            if ($best === null || $block[1] < $best[1]) {
                $best = $block;
            }
        }

        return $best === null ? null : self::prefix($best);
    }

    /** The next open prefix of that length, null when none fits. */
    public function next(int $length, Fit $fit = Fit::First): ?Prefix
    {
        return $this->several($length, 1, $fit)[0] ?? null;
    }

    /**
     * As many open prefixes of that length as asked for, or fewer when there is no more; each choice sees the ones before it taken.
     *
     * @return list<Prefix> in order of choice
     */
    public function several(int $length, int $count, Fit $fit = Fit::First): array
    {
        $heap = self::heap($fit);
        foreach ($this->blocks as $block) {
            if ($block[1] <= $length) {
                $heap->insert($block);
            }
        }
        $chosen = [];
        while (count($chosen) < $count && ! $heap->isEmpty()) {
            [$first, $size] = $heap->extract();
            while ($size < $length) {
                $size++;
                $heap->insert([Bits::flip($first, $size - 1), $size]);
            }
            $chosen[] = self::prefix([$first, $length]);
        }

        return $chosen;
    }

    /** @return \SplHeap<array{string, int}> the block to take next on top */
    private static function heap(Fit $fit): \SplHeap
    {
        return new /** @extends \SplHeap<array{string, int}> */ class($fit) extends \SplHeap
        {
            public function __construct(private readonly Fit $fit)
            {
            }

            /**
             * @param  array{string, int}  $value1
             * @param  array{string, int}  $value2
             */
            protected function compare(mixed $value1, mixed $value2): int
            {
                $lower = strcmp($value2[0], $value1[0]);

                return match ($this->fit) {
                    Fit::First => strlen($value2[0]) <=> strlen($value1[0]) ?: $lower,
                    Fit::Best => $value1[1] <=> $value2[1] ?: $lower,
                    Fit::Room => $value2[1] <=> $value1[1] ?: $lower,
                };
            }
        };
    }

    /** @param  array{string, int}  $block */
    private static function prefix(array $block): Prefix
    {
        return Prefix::of(Address::fromBytes($block[0]), $block[1]);
    }
}
