<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Zone;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\NameOrder;
use HarborPost\Core\Dns\Rdata\Dname;
use HarborPost\Core\Dns\Rdata\Ns;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordSet;
use HarborPost\Core\Dns\RecordType;

/** The records of a zone by owner, as they were given: duplicates and unequal TTLs are still there for the checks to find. */
final readonly class Zone
{
    /**
     * @param  array<string, non-empty-list<Record>>  $owners  key of the owner → its records
     * @param  array<string, int>  $lines  key of the owner, and key with type → the first line it stands on, where the zone was read from
     *     a file
     * @param  array<string, true>  $cuts  keys of the names below the apex that delegate
     * @param  array<string, true>  $redirects  keys of the names with a DNAME
     */
    private function __construct(
        public Name $origin,
        private array $owners,
        private array $lines,
        private array $cuts,
        private array $redirects,
    ) {
    }

    /**
     * @param  iterable<int, Record>  $records  the keys are line numbers when $numbered
     */
    public static function of(Name $origin, iterable $records, bool $numbered = false): self
    {
        $owners = $lines = $cuts = $redirects = [];
        $last = null;
        $key = '';
        foreach ($records as $line => $record) {
            if ($record->owner !== $last) {
                $last = $record->owner;
                $key = strtolower($last->wire);
            }
            $owners[$key][] = $record;
            if ($record->data instanceof Ns) {
                $cuts[$key] = true;
            } elseif ($record->data instanceof Dname) {
                $redirects[$key] = true;
            }
            if ($numbered) {
                $lines[$key] ??= $line;
                if ($lines[$key] !== $line) {
                    $lines[$key.' '.$record->type()->number] ??= $line;
                }
            }
        }
        unset($cuts[$origin->key()]);

        return new self($origin, $owners, $lines, $cuts, $redirects);
    }

    /** The closest name above, or the apex, that a DNAME sends elsewhere with all below it; the name itself does not count. */
    public function dnameAbove(Name $name): ?Name
    {
        for ($up = $this->redirects === [] ? null : $name->parent(); $up !== null && $up->isIn($this->origin); $up = $up->parent()) {
            if (isset($this->redirects[$up->key()])) {
                return $up;
            }
        }

        return null;
    }

    /** @return list<Record> at that name, in the order given */
    public function at(Name $name): array
    {
        return $this->owners[$name->key()] ?? [];
    }

    public function has(Name $name, ?int $type = null): bool
    {
        foreach ($this->at($name) as $record) {
            if ($type === null || $record->type()->number === $type) {
                return true;
            }
        }

        return false;
    }

    /** The first line on which a name has a record, of that type if there is one, when the zone was read from a file. */
    public function lineOf(Name $name, ?int $type = null): ?int
    {
        $key = $name->key();

        return $this->lines["$key $type"] ?? $this->lines[$key] ?? null;
    }

    public function soa(): ?Soa
    {
        foreach ($this->at($this->origin) as $record) {
            if ($record->data instanceof Soa) {
                return $record->data;
            }
        }

        return null;
    }

    /** @return \Generator<string, non-empty-list<Record>> key → records, in the order the owners came */
    public function owners(): \Generator
    {
        foreach ($this->owners as $key => $records) {
            yield (string) $key => $records;
        }
    }

    public function count(): int
    {
        return array_sum(array_map(count(...), $this->owners));
    }

    /** Are there names that are not answered from here, below a delegation or a DNAME? */
    public function delegates(): bool
    {
        return $this->cuts !== [] || $this->redirects !== [];
    }

    /** The closest name above, below the apex, that delegates the name away; the name itself does not count. */
    public function cutAbove(Name $name): ?Name
    {
        if ($this->cuts === []) {
            return null;
        }
        for ($up = $name->parent(); $up !== null && ! $up->equals($this->origin) && $up->isIn($this->origin); $up = $up->parent()) {
            if (isset($this->cuts[$up->key()])) {
                return $up;
            }
        }

        return null;
    }

    /**
     * Records in canonical order: owners by RFC 4034 §6.1, the SOA first, types by number; duplicates once, the lowest TTL for all of a
     * set.
     *
     * @return \Generator<int, Record>
     */
    public function records(): \Generator
    {
        $order = [];
        $names = new NameOrder;
        foreach ($this->owners as $key => $records) {
            $order[$names->sortKey((string) $key)] = $records;
        }
        ksort($order, SORT_STRING);
        foreach ($order as $records) {
            if (count($records) === 1) {
                yield $records[0];

                continue;
            }
            $byType = [];
            foreach ($records as $record) {
                $number = $record->type()->number;
                $byType[$number === RecordType::SOA ? 0 : $number][] = $record;
            }
            ksort($byType);
            foreach ($byType as $set) {
                foreach (RecordSet::of($set)->records as $record) {
                    yield $record;
                }
            }
        }
    }
}
