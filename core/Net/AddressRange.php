<?php

declare(strict_types=1);

namespace HarborPost\Core\Net;

use Brick\Math\BigInteger;

/** Neighbouring addresses of one family, both ends included. */
final readonly class AddressRange implements \Stringable
{
    private function __construct(public Address $first, public Address $last)
    {
    }

    /** @throws NotUnderstood when the ends are of two families or the wrong way round */
    public static function of(Address $first, Address $last): self
    {
        $text = "$first-$last";
        if ($first->family !== $last->family) {
            throw NotUnderstood::at($text, strlen("$first-"), 'both ends of a range in one family');
        }
        if ($first->compare($last) > 0) {
            throw NotUnderstood::at($text, strlen("$first-"), "the end of a range at or after its start $first");
        }

        return new self($first, $last);
    }

    /**
     * `192.0.2.20-192.0.2.120`, `192.0.2.20 - 192.0.2.120`, and for IPv4 the short `192.0.2.20-120`; a prefix or a bare address is a range
     * too.
     *
     * @throws NotUnderstood
     */
    public static function parse(string $text): self
    {
        return Understood::from($text)->range;
    }

    public static function tryParse(string $text): ?self
    {
        try {
            return self::parse($text);
        } catch (NotUnderstood) {
            return null;
        }
    }

    public function size(): BigInteger
    {
        return $this->last->minus($this->first)->plus(1);
    }

    /** As far behind another address as it stands behind one; null when that is beyond the last address of its family. */
    public function moved(Address $from, Address $to): ?self
    {
        if ($from->family !== $this->first->family || $to->family !== $from->family) {
            return null;
        }
        $first = $to->plus($this->first->minus($from));
        $last = $to->plus($this->last->minus($from));

        return $first === null || $last === null ? null : new self($first, $last);
    }

    public function contains(Address|self $inner): bool
    {
        [$first, $last] = $inner instanceof self ? [$inner->first, $inner->last] : [$inner, $inner];

        return $first->family === $this->first->family && $first->compare($this->first) >= 0 && $last->compare($this->last) <= 0;
    }

    public function overlaps(self $other): bool
    {
        return $this->first->family === $other->first->family
            && $this->first->compare($other->last) <= 0 && $other->first->compare($this->last) <= 0;
    }

    /** @return list<Prefix> the fewest prefixes that cover exactly this range, in order */
    public function prefixes(): array
    {
        return array_map(
            static fn (array $block): Prefix => Prefix::of(Address::fromBytes($block[0]), $block[1]),
            Bits::blocks($this->first->bytes, $this->last->bytes),
        );
    }

    /** The prefix it is, if it is one. */
    public function prefix(): ?Prefix
    {
        $prefixes = Bits::blocks($this->first->bytes, $this->last->bytes);

        return count($prefixes) === 1 ? Prefix::of($this->first, $prefixes[0][1]) : null;
    }

    public function equals(self $other): bool
    {
        return $this->first->equals($other->first) && $this->last->equals($other->last);
    }

    public function compare(self $other): int
    {
        return $this->first->compare($other->first) ?: $this->last->compare($other->last);
    }

    public function __toString(): string
    {
        return $this->first->equals($this->last) ? (string) $this->first : "$this->first-$this->last";
    }
}
