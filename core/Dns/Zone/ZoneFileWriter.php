<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Zone;

use HarborPost\Core\Dns\NameOrder;

/** The canonical text of a zone: one record a line, absolute and in lower case; the same bytes for the same zone. */
final class ZoneFileWriter
{
    /** @return \Generator<int, string> lines with their line end */
    public static function lines(Zone $zone): \Generator
    {
        $names = new NameOrder;
        foreach ($zone->records() as $record) {
            yield "{$names->text($record->owner->key())} $record->ttl IN {$record->data->type()} {$record->data->text()}\n";
        }
    }
}
