<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordSet;

/** A name of a zone with its record sets, as signing reads them. */
final readonly class Node
{
    /** @param  array<int, RecordSet>  $sets  by number of type */
    public function __construct(public Name $name, public array $sets)
    {
    }

    /** @param  non-empty-list<Record>  $records  of one owner */
    public static function of(array $records): self
    {
        $byType = [];
        foreach ($records as $record) {
            $byType[$record->type()->number][] = $record;
        }

        return new self($records[0]->owner, array_map(RecordSet::of(...), $byType));
    }

    /**
     * @param  iterable<Record>  $records  in any order
     * @return list<self> in canonical order (RFC 4034 §6.1)
     */
    public static function all(iterable $records): array
    {
        $owners = [];
        foreach ($records as $record) {
            $owners[$record->owner->sortKey()][] = $record;
        }
        ksort($owners, SORT_STRING);

        return array_values(array_map(self::of(...), $owners));
    }

    public function has(int $type): bool
    {
        return isset($this->sets[$type]);
    }
}
