<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

/**
 * TTLs with which a kind of records was served: a cache that asked while it was a week holds its copy for a week, however short the TTL is
 * now. Times that caches decide go by the longest that one may still count down (RFC 7583 §3.1).
 */
final readonly class CachedTtls
{
    /** @param  list<array{int, ?int}>  $rows  TTL, and when the last server had another; what servers were given last stands last */
    private function __construct(private array $rows)
    {
    }

    /** @param  list<array{int, ?int}>  $rows  as {@see rows()} tells them */
    public static function of(array $rows): self
    {
        return new self($rows);
    }

    /** @return list<array{int, ?int}> */
    public function rows(): array
    {
        return $this->rows;
    }

    /** Servers are given records with this TTL from now on; some may still answer with the one before. */
    public function serve(int $ttl): self
    {
        return new self([...array_values(array_filter($this->rows, static fn (array $row): bool => $row[0] !== $ttl)), [$ttl, null]]);
    }

    /** All servers have what they were given last: those of before are in caches alone. */
    public function settle(int $at): self
    {
        $last = count($this->rows) - 1;

        return new self(array_map(
            static fn (array $row, int $i): array => [$row[0], $i === $last ? null : $row[1] ?? $at],
            $this->rows,
            array_keys($this->rows),
        ));
    }

    /**
     * @param  int  $lag  a server may be behind by so much
     * @return int 0 when none is known
     */
    public function longest(int $now, int $lag): int
    {
        return max([0, ...array_column($this->held($now, $lag), 0)]);
    }

    /** Until when a cache may hold what was served with a TTL above this one; null when none can, or as long as a server has it. */
    public function until(int $above, int $now, int $lag): ?int
    {
        $ends = array_map(
            static fn (array $row): ?int => $row[1] === null ? null : $row[1] + $lag + $row[0],
            array_filter($this->held($now, $lag), static fn (array $row): bool => $row[0] > $above),
        );

        return $ends === [] || in_array(null, $ends, true) ? null : max($ends);
    }

    /** Without those that no cache can hold any more. */
    public function trim(int $now, int $lag): self
    {
        return new self($this->held($now, $lag));
    }

    /** @return list<array{int, ?int}> */
    private function held(int $now, int $lag): array
    {
        return array_values(array_filter(
            $this->rows,
            static fn (array $row): bool => $row[1] === null || $now < $row[1] + $lag + $row[0],
        ));
    }
}
