<?php

declare(strict_types=1);

namespace HarborPost\Core\Checks;

use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\Zone\Zone;

/**
 * One rule over one name of a zone. The list of rules walks the zone once and asks each rule at each name.
 */
interface ZoneRule
{
    /** What the rule holds and why, one or two sentences. */
    public function explanation(): string;

    public function standard(): string;

    /**
     * @param  non-empty-list<Record>  $records  all records at one owner
     * @return iterable<Finding>
     */
    public function at(Zone $zone, array $records): iterable;
}
