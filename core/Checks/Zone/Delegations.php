<?php

declare(strict_types=1);

namespace HarborPost\Core\Checks\Zone;

use HarborPost\Core\Checks\Finding;
use HarborPost\Core\Checks\Severity;
use HarborPost\Core\Checks\ZoneRule;
use HarborPost\Core\Dns\Rdata\HoldsAddress;
use HarborPost\Core\Dns\Rdata\Ns;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Zone\Zone;

final class Delegations implements ZoneRule
{
    public function explanation(): string
    {
        return 'A delegation to a server inside the delegated zone needs its address here; other data below a delegation is '
            .'never answered.';
    }

    public function standard(): string
    {
        return 'RFC 1034 §4.2.1';
    }

    public function at(Zone $zone, array $records): iterable
    {
        $owner = $records[0]->owner;
        if ($owner->equals($zone->origin)) {
            foreach ($records as $record) {
                $target = $record->data instanceof Ns ? $record->data->target : null;
                if ($target?->isIn($zone->origin) === true && $zone->cutAbove($target) === null
                    && ! $zone->has($target, RecordType::A) && ! $zone->has($target, RecordType::AAAA) && ! $zone->has(
                        $target,
                        RecordType::CNAME,
                    )) {
                    yield new Finding(
                        'glue-missing',
                        Severity::Error,
                        "the name server {$record->data->target} is in this zone and has no address",
                        $this->standard(),
                        $owner,
                        RecordType::of(RecordType::NS),
                        'add an A or AAAA record for it',
                    );
                }
            }

            return;
        }
        $cut = $zone->cutAbove($owner);
        $servers = array_filter($records, static fn (Record $r): bool => $r->data instanceof Ns);
        foreach ($cut === null ? $servers : [] as $record) {
            $target = $record->data instanceof Ns ? $record->data->target : $owner;
            if ($target->isIn($owner) && ! $zone->has($target, RecordType::A) && ! $zone->has($target, RecordType::AAAA)) {
                yield new Finding(
                    'glue-missing',
                    Severity::Error,
                    "the name server $target is inside the delegated zone and has no address here",
                    $this->standard(),
                    $owner,
                    RecordType::of(RecordType::NS),
                    "add an A or AAAA record for $target",
                );
            }
        }
        if ($cut === null) {
            return;
        }
        $isServer = false;
        foreach ($zone->at($cut) as $record) {
            $isServer = $isServer || $record->data instanceof Ns && $record->data->target->equals($owner);
        }
        foreach ($records as $record) {
            if (! $record->data instanceof HoldsAddress) {
                yield new Finding(
                    'below-delegation',
                    Severity::Warning,
                    "it stands below the delegation of $cut and is never answered",
                    $this->standard(),
                    $owner,
                    $record->type(),
                    "move it into the zone $cut",
                );
            } elseif (! $isServer) {
                yield new Finding(
                    'glue-pointless',
                    Severity::Warning,
                    "an address below the delegation of $cut that no NS of it names",
                    $this->standard(),
                    $owner,
                    $record->type(),
                    'remove it',
                );
            }
        }
    }
}
