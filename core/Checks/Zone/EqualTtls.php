<?php

declare(strict_types=1);

namespace HarborPost\Core\Checks\Zone;

use HarborPost\Core\Checks\Finding;
use HarborPost\Core\Checks\Severity;
use HarborPost\Core\Checks\ZoneRule;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Zone\Zone;

final class EqualTtls implements ZoneRule
{
    public function explanation(): string
    {
        return 'All records of a set have one TTL; caches use the lowest.';
    }

    public function standard(): string
    {
        return 'RFC 2181 §5.2';
    }

    public function at(Zone $zone, array $records): iterable
    {
        if (count($records) === 1) {
            return;
        }
        $ttls = $identities = [];
        foreach ($records as $record) {
            $number = $record->type()->number;
            $ttls[$number][$record->ttl] = true;
            if (isset($identities[$record->identity()])) {
                yield new Finding(
                    'record-twice',
                    Severity::Note,
                    "the same record stands twice: {$record->data->text()}",
                    'RFC 2181 §5',
                    $record->owner,
                    $record->type(),
                    'remove one of them',
                );
            }
            $identities[$record->identity()] = true;
        }
        foreach ($ttls as $number => $values) {
            if (count($values) > 1) {
                ksort($values);
                yield new Finding(
                    'ttl-unequal',
                    Severity::Warning,
                    'one record set with TTLs '.implode(', ', array_keys($values)),
                    $this->standard(),
                    $records[0]->owner,
                    RecordType::of($number),
                    'give all of them '.array_key_first($values),
                );
            }
        }
    }
}
