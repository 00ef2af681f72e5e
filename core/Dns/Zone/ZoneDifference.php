<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Zone;

use HarborPost\Core\Dns\Record;

/** What turns one zone into another: records to take away and records to add. A changed TTL is both. */
final readonly class ZoneDifference
{
    /**
     * @param  list<Record>  $removed
     * @param  list<Record>  $added
     */
    private function __construct(public array $removed, public array $added)
    {
    }

    public static function between(Zone $from, Zone $to): self
    {
        $before = self::lines($from);
        $after = self::lines($to);

        return new self(array_values(array_diff_key($before, $after)), array_values(array_diff_key($after, $before)));
    }

    public function isEmpty(): bool
    {
        return $this->removed === [] && $this->added === [];
    }

    /** @return array<string, Record> */
    private static function lines(Zone $zone): array
    {
        $lines = [];
        foreach ($zone->records() as $record) {
            $lines[(string) $record] = $record;
        }

        return $lines;
    }
}
