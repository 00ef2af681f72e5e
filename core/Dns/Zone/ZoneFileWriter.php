<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Zone;

use HarborPost\Core\Dns\NameOrder;
use HarborPost\Core\Dns\Rdata\Opaque;

/** The canonical text of a zone: one record a line, absolute and in lower case; the same bytes for the same zone. */
final class ZoneFileWriter
{
    /** @return \Generator<int, string> lines with their line end */
    public static function lines(Zone $zone): \Generator
    {
        $names = new NameOrder;
        $types = [];
        foreach ($zone->records() as $record) {
            $data = $record->data;
            // A class has one type, but for the one that keeps types without a class.
            $type = $types[$data::class] ?? (string) $data->type();
            $data instanceof Opaque || $types[$data::class] ??= $type;
            yield $names->text($record->owner->key())." $record->ttl IN $type ".$data->text()."\n";
        }
    }
}
