<?php

declare(strict_types=1);

namespace HarborPost\Core\Checks\Zone;

use HarborPost\Core\Checks\Finding;
use HarborPost\Core\Checks\Severity;
use HarborPost\Core\Checks\ZoneRule;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Cname;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Zone\Zone;

final class AliasLoops implements ZoneRule
{
    /** How far a chain of aliases is followed; servers and resolvers give up about here. */
    private const CHAIN = 16;

    public function explanation(): string
    {
        return 'A chain of aliases that comes back to where it began is answered by nobody.';
    }

    public function standard(): string
    {
        return 'RFC 1034 §3.6.2';
    }

    public function at(Zone $zone, array $records): iterable
    {
        $owner = $records[0]->owner;
        $at = self::next($zone, $owner);
        for ($i = 0; $at !== null && $i < self::CHAIN; $i++) {
            if ($at->equals($owner)) {
                yield new Finding(
                    'alias-loop',
                    Severity::Error,
                    $i === 0 ? 'an alias of itself' : 'the aliases lead back to it',
                    $this->standard(),
                    $owner,
                    RecordType::of(RecordType::CNAME),
                    'let one of them name a host',
                );

                return;
            }
            $at = self::next($zone, $at);
        }
    }

    private static function next(Zone $zone, Name $name): ?Name
    {
        foreach ($zone->at($name) as $record) {
            if ($record->data instanceof Cname) {
                return $record->data->target;
            }
        }

        return null;
    }
}
