<?php

declare(strict_types=1);

namespace HarborPost\Core\Checks\Zone;

use HarborPost\Core\Checks\Finding;
use HarborPost\Core\Checks\Severity;
use HarborPost\Core\Checks\ZoneRule;
use HarborPost\Core\Dns\Zone\Zone;

final class ZeroTtl implements ZoneRule
{
    public function explanation(): string
    {
        return 'A TTL of zero forbids every cache to keep the record.';
    }

    public function standard(): string
    {
        return 'RFC 1035 §3.2.1';
    }

    public function at(Zone $zone, array $records): iterable
    {
        foreach ($records as $record) {
            if ($record->ttl === 0) {
                yield new Finding(
                    'ttl-zero',
                    Severity::Warning,
                    'a TTL of 0: nobody may keep the answer',
                    $this->standard(),
                    $record->owner,
                    $record->type(),
                    'leave the TTL blank to inherit',
                );
            }
        }
    }
}
