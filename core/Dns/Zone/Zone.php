<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Zone;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordSet;
use HarborPost\Core\Dns\RecordType;

/** The records of a zone by owner, as they were given: duplicates and unequal TTLs are still there for the checks to find. */
final readonly class Zone
{
    /**
     * @param  array<string, non-empty-list<Record>>  $owners  sort key of the owner → its records
     * @param  array<string, int>  $lines  sort key of the owner → the first line it stands on, where the zone was read from a file
     */
    private function __construct(public Name $origin, private array $owners, private array $lines)
    {
    }

    /**
     * @param  iterable<int, Record>  $records  the keys are line numbers when $numbered
     */
    public static function of(Name $origin, iterable $records, bool $numbered = false): self
    {
        $owners = $lines = [];
        $last = null;
        $key = '';
        foreach ($records as $line => $record) {
            if ($record->owner !== $last) {
                $last = $record->owner;
                $key = $last->sortKey();
            }
            $owners[$key][] = $record;
            if ($numbered) {
                $lines[$key] ??= $line;
                if ($lines[$key] !== $line) {
                    $lines[$key.' '.$record->type()->number] ??= $line;
                }
            }
        }

        return new self($origin, $owners, $lines);
    }

    /** @return list<Record> at that name, in the order given */
    public function at(Name $name): array
    {
        return $this->owners[$name->sortKey()] ?? [];
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
        $key = $name->sortKey();

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

    /** @return \Generator<string, non-empty-list<Record>> sort key → records, in the order the owners came */
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

    /** The closest name above, below the apex, that delegates the name away; the name itself does not count. */
    public function cutAbove(Name $name): ?Name
    {
        for ($up = $name->parent(); $up !== null && ! $up->equals($this->origin) && $up->isIn($this->origin); $up = $up->parent()) {
            if ($this->has($up, RecordType::NS)) {
                return $up;
            }
        }

        return null;
    }

    /**
     * Record sets in canonical order: owners by RFC 4034 §6.1, the SOA first, types by number; duplicates once, the lowest TTL for all of a set.
     *
     * @return \Generator<int, RecordSet>
     */
    public function sets(): \Generator
    {
        $keys = array_map(strval(...), array_keys($this->owners));
        sort($keys, SORT_STRING);
        foreach ($keys as $key) {
            $records = $this->owners[$key];
            if (count($records) === 1) {
                yield RecordSet::of($records);

                continue;
            }
            $byType = [];
            foreach ($records as $record) {
                $number = $record->type()->number;
                $byType[$number === RecordType::SOA ? 0 : $number][] = $record;
            }
            ksort($byType);
            foreach ($byType as $set) {
                yield RecordSet::of($set);
            }
        }
    }
}
