<?php

declare(strict_types=1);

namespace HarborPost\Core\Checks\Zone;

use HarborPost\Core\Checks\Finding;
use HarborPost\Core\Checks\Severity;
use HarborPost\Core\Checks\ZoneRule;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Zone\Zone;

final class WildcardReach implements ZoneRule
{
    public function explanation(): string
    {
        return 'A wildcard answers only for names that do not exist: a neighbour with other records, or with names below it, is '
            .'not covered, which surprises.';
    }

    public function standard(): string
    {
        return 'RFC 4592 §2.2.1';
    }

    public function at(Zone $zone, array $records): iterable
    {
        $owner = $records[0]->owner;
        $parent = $owner->parent();
        if ($owner->isWildcard() || $parent === null || ! $owner->isIn($zone->origin) || $owner->equals($zone->origin)) {
            return;
        }
        $wildcard = $zone->at($parent->prepend('*'));
        $own = [];
        foreach ($records as $record) {
            $own[$record->type()->number] = true;
        }
        if ($wildcard === [] || isset($own[RecordType::CNAME]) || isset($own[RecordType::NS])) {
            return;
        }
        $missed = [];
        foreach ($wildcard as $record) {
            isset($own[$record->type()->number]) ?: $missed[(string) $record->type()] = true;
        }
        if ($missed !== []) {
            yield new Finding(
                'wildcard-missed',
                Severity::Note,
                'the wildcard '
                    .$parent->prepend('*')
                    .' has '
                    .implode(', ', array_keys($missed))
                    .' that this name does not get, as it exists',
                $this->standard(),
                $owner,
                null,
                'write them here too, if they are meant',
            );
        }
    }
}
