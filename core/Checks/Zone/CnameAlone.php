<?php

declare(strict_types=1);

namespace HarborPost\Core\Checks\Zone;

use HarborPost\Core\Checks\Finding;
use HarborPost\Core\Checks\Severity;
use HarborPost\Core\Checks\ZoneRule;
use HarborPost\Core\Dns\Rdata\Cname;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Zone\Zone;

final class CnameAlone implements ZoneRule
{
    public function explanation(): string
    {
        return 'An alias has no other data beside it, is no second alias, and never stands at the top of a zone.';
    }

    public function standard(): string
    {
        return 'RFC 1034 §3.6.2';
    }

    public function at(Zone $zone, array $records): iterable
    {
        if (count($records) === 1 && ! $records[0]->data instanceof Cname) {
            return;
        }
        $aliases = array_filter($records, static fn (Record $r): bool => $r->data instanceof Cname);
        if ($aliases === []) {
            return;
        }
        $owner = $records[0]->owner;
        $type = RecordType::of(RecordType::CNAME);
        if ($owner->equals($zone->origin)) {
            yield new Finding(
                'cname-at-apex',
                Severity::Error,
                'the top of the zone cannot be an alias: its SOA and NS stand there',
                $this->standard(),
                $owner,
                $type,
                'remove the CNAME, write A and AAAA',
            );
        } elseif (count($aliases) < count($records)) {
            yield new Finding(
                'cname-beside-data',
                Severity::Error,
                'an alias and other data at the same name',
                $this->standard(),
                $owner,
                $type,
                'remove the CNAME or the other records',
            );
        }
        if (count(array_unique(array_map(static fn (Record $r): string => $r->identity(), $aliases))) > 1) {
            yield new Finding(
                'cname-twice',
                Severity::Error,
                'two aliases at one name',
                'RFC 2181 §10.1',
                $owner,
                $type,
                'keep one of them',
            );
        }
    }
}
