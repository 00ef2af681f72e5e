<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns;

/** All records of one owner and type (RFC 2181 §5): no two with the same data, one TTL. */
final readonly class RecordSet
{
    /** @param  non-empty-list<Record>  $records  in canonical order, without duplicates */
    private function __construct(public array $records)
    {
    }

    /**
     * @param  non-empty-list<Record>  $records  of one owner and type, in any order, duplicates and unequal TTLs allowed
     */
    public static function of(array $records): self
    {
        $unique = [];
        $ttl = min(array_map(static fn (Record $r): int => $r->ttl, $records));
        foreach ($records as $record) {
            if (! $record->owner->equals($records[0]->owner) || ! $record->type()->equals($records[0]->type())) {
                throw Malformed::because('a record set has one owner and one type', 'RFC 2181 §5');
            }
            $unique[bin2hex($record->data->canonical())] ??= $record->withTtl($ttl);
        }
        ksort($unique, SORT_STRING);

        return new self(array_values($unique));
    }

    public function owner(): Name
    {
        return $this->records[0]->owner;
    }

    public function type(): RecordType
    {
        return $this->records[0]->type();
    }

    /** The lowest of the TTLs given: what a cache may rely on. */
    public function ttl(): int
    {
        return $this->records[0]->ttl;
    }
}
