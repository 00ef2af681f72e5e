<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dns;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;

/** A zone as a server holds it: records by name and type, and the names that exist, empty non-terminals included. */
final class ServedZone
{
    /** @var array<string, array<int, array<string, Record>>> sort key → type → identity → record */
    private array $nodes = [];

    /** @var array<string, int> sort key → how many names with records are there or below */
    private array $exists = [];

    /** @param  list<string>  $transfer  prefixes that may take the zone as a whole */
    public function __construct(public readonly Name $origin, public array $transfer = [])
    {
    }

    /** One record from `owner ttl type data`, as the control channel carries it. */
    public static function record(string $line): Record
    {
        [$owner, $ttl, $type, $data] = explode(' ', $line, 4) + ['', '0', '', ''];

        return new Record(Name::parse($owner), (int) $ttl, RdataTypes::fromText(RecordType::parse($type), Fields::ofLine($data)));
    }

    public static function line(Record $record): string
    {
        return "{$record->owner->lower()} $record->ttl {$record->type()} {$record->data->text()}";
    }

    public function add(Record $record): void
    {
        $key = $record->owner->sortKey();
        if (! isset($this->nodes[$key])) {
            $this->count($record->owner, 1);
        }
        $this->nodes[$key][$record->type()->number][$record->identity()] = $record;
    }

    public function remove(Record $record): void
    {
        $key = $record->owner->sortKey();
        $type = $record->type()->number;
        unset($this->nodes[$key][$type][$record->identity()]);
        if (($this->nodes[$key][$type] ?? []) === []) {
            unset($this->nodes[$key][$type]);
        }
        if (isset($this->nodes[$key]) && $this->nodes[$key] === []) {
            unset($this->nodes[$key]);
            $this->count($record->owner, -1);
        }
    }

    /** @return list<Record> */
    public function set(Name $name, int $type): array
    {
        return array_values($this->nodes[$name->sortKey()][$type] ?? []);
    }

    /** @return list<Record> all records at a name */
    public function node(Name $name): array
    {
        return array_merge(...array_map(array_values(...), array_values($this->nodes[$name->sortKey()] ?? [])), ...[[]]);
    }

    /** Is there a record at the name or anywhere below it (RFC 4592 §2.2.2)? */
    public function exists(Name $name): bool
    {
        return isset($this->exists[$name->sortKey()]);
    }

    public function soa(): ?Record
    {
        return $this->set($this->origin, RecordType::SOA)[0] ?? null;
    }

    public function serial(): ?int
    {
        $soa = $this->soa()?->data;

        return $soa instanceof Soa ? $soa->serial->value : null;
    }

    /** @return \Generator<int, Record> every record but the SOA */
    public function records(): \Generator
    {
        foreach ($this->nodes as $types) {
            foreach ($types as $type => $records) {
                foreach ($type === RecordType::SOA ? [] : $records as $record) {
                    yield $record;
                }
            }
        }
    }

    private function count(Name $owner, int $by): void
    {
        for ($up = $owner; $up !== null && $up->isIn($this->origin); $up = $up->parent()) {
            $key = $up->sortKey();
            $this->exists[$key] = ($this->exists[$key] ?? 0) + $by;
            if ($this->exists[$key] === 0) {
                unset($this->exists[$key]);
            }
        }
    }
}
