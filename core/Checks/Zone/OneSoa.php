<?php

declare(strict_types=1);

namespace HarborPost\Core\Checks\Zone;

use HarborPost\Core\Checks\Finding;
use HarborPost\Core\Checks\Severity;
use HarborPost\Core\Checks\ZoneRule;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Zone\Zone;

final class OneSoa implements ZoneRule
{
    public function explanation(): string
    {
        return 'A zone has exactly one SOA, at its top.';
    }

    public function standard(): string
    {
        return 'RFC 1035 §5.2';
    }

    public function at(Zone $zone, array $records): iterable
    {
        $owner = $records[0]->owner;
        $soas = array_filter($records, static fn (Record $r): bool => $r->data instanceof Soa);
        $type = RecordType::of(RecordType::SOA);
        if ($soas !== [] && ! $owner->equals($zone->origin)) {
            yield new Finding(
                'soa-below-apex',
                Severity::Error,
                'an SOA below the top of the zone',
                $this->standard(),
                $owner,
                $type,
                'remove it',
            );
        } elseif (count(array_unique(array_map(static fn (Record $r): string => $r->identity(), $soas))) > 1) {
            yield new Finding(
                'soa-twice',
                Severity::Error,
                'two different SOA records',
                $this->standard(),
                $owner,
                $type,
                'keep one of them',
            );
        }
    }
}
