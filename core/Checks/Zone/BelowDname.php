<?php

declare(strict_types=1);

namespace HarborPost\Core\Checks\Zone;

use HarborPost\Core\Checks\Finding;
use HarborPost\Core\Checks\Severity;
use HarborPost\Core\Checks\ZoneRule;
use HarborPost\Core\Dns\Zone\Zone;

final class BelowDname implements ZoneRule
{
    public function explanation(): string
    {
        return 'A DNAME sends every name below it elsewhere, so that no record there is answered.';
    }

    public function standard(): string
    {
        return 'RFC 6672 §2.4';
    }

    public function at(Zone $zone, array $records): iterable
    {
        $above = $zone->dnameAbove($records[0]->owner);
        if ($above !== null) {
            yield new Finding(
                'below-dname',
                Severity::Error,
                "it stands below the DNAME at $above and is never answered",
                $this->standard(),
                $records[0]->owner,
                $records[0]->type(),
                'remove it, or the DNAME',
            );
        }
    }
}
