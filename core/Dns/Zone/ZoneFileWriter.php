<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Zone;

/** The canonical text of a zone: one record a line, absolute and in lower case; the same bytes for the same zone. */
final class ZoneFileWriter
{
    /** @return \Generator<int, string> lines with their line end */
    public static function lines(Zone $zone): \Generator
    {
        foreach ($zone->records() as $record) {
            yield $record."\n";
        }
    }
}
