<?php

declare(strict_types=1);

namespace HarborPost\Core\Net;

/**
 * A set of addresses of both families, kept as disjoint, sorted, never touching stretches.
 *
 * Equal sets have equal stretches, so equality is a comparison of lists.
 */
final readonly class PrefixSet
{
    /** @param  list<array{string, string}>  $stretches  first and last bytes; IPv4 before IPv6 */
    private function __construct(private array $stretches)
    {
    }

    public static function of(Prefix|AddressRange ...$parts): self
    {
        $pairs = [];
        foreach ($parts as $part) {
            $pairs[] = $part instanceof Prefix ? [$part->first->bytes, $part->last()->bytes] : [$part->first->bytes, $part->last->bytes];
        }

        return self::joined($pairs);
    }

    public function union(self $other): self
    {
        return self::joined([...$this->stretches, ...$other->stretches]);
    }

    public function difference(self $other): self
    {
        $left = [];
        $taken = $other->stretches;
        $at = 0;
        foreach ($this->stretches as [$first, $last]) {
            while (isset($taken[$at]) && self::order($taken[$at][1], $first) < 0) {
                $at++;
            }
            $cursor = $first;
            for ($i = $at; $cursor !== null && isset($taken[$i]) && self::order($taken[$i][0], $last) <= 0; $i++) {
                if (strcmp($taken[$i][0], $cursor) > 0) {
                    $left[] = [$cursor, (string) Bits::previous($taken[$i][0])];
                }
                $cursor = strcmp($taken[$i][1], $last) >= 0 ? null : Bits::next($taken[$i][1]);
            }
            if ($cursor !== null) {
                $left[] = [$cursor, $last];
            }
        }

        return new self($left);
    }

    public function intersection(self $other): self
    {
        return $this->difference($this->difference($other));
    }

    public function contains(Address|Prefix|AddressRange $part): bool
    {
        $needed = self::of($part instanceof Address ? AddressRange::of($part, $part) : $part);

        return $needed->difference($this)->isEmpty();
    }

    public function isEmpty(): bool
    {
        return $this->stretches === [];
    }

    public function equals(self $other): bool
    {
        return $this->stretches === $other->stretches;
    }

    /** @return list<AddressRange> */
    public function ranges(): array
    {
        return array_map(
            static fn (array $pair): AddressRange => AddressRange::of(Address::fromBytes($pair[0]), Address::fromBytes($pair[1])),
            $this->stretches,
        );
    }

    /** @return list<Prefix> the fewest prefixes that cover exactly this set, sorted, IPv4 first */
    public function prefixes(): array
    {
        return array_merge(...array_map(static fn (AddressRange $range): array => $range->prefixes(), $this->ranges()), ...[[]]);
    }

    /** @param  list<array{string, string}>  $pairs */
    private static function joined(array $pairs): self
    {
        usort($pairs, static fn (array $a, array $b): int => self::order($a[0], $b[0]));
        /** @var list<array{string, string}> $joined */
        $joined = [];
        $at = -1;
        foreach ($pairs as [$first, $last]) {
            if ($at >= 0 && strlen($joined[$at][1]) === strlen($first)) {
                $touching = Bits::next($joined[$at][1]);
                if ($touching === null || strcmp($first, $touching) <= 0) {
                    $joined[$at] = [$joined[$at][0], strcmp($last, $joined[$at][1]) > 0 ? $last : $joined[$at][1]];

                    continue;
                }
            }
            $joined[] = [$first, $last];
            $at++;
        }

        return new self($joined);
    }

    /** IPv4 before IPv6, then by value. */
    private static function order(string $a, string $b): int
    {
        return strlen($a) <=> strlen($b) ?: strcmp($a, $b);
    }
}
