<?php

declare(strict_types=1);

namespace HarborPost\Core\Checks\Zone;

use HarborPost\Core\Checks\Finding;
use HarborPost\Core\Checks\Severity;
use HarborPost\Core\Checks\ZoneRule;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Cname;
use HarborPost\Core\Dns\Rdata\Mx;
use HarborPost\Core\Dns\Rdata\Ns;
use HarborPost\Core\Dns\Rdata\PointsAt;
use HarborPost\Core\Dns\Rdata\Ptr;
use HarborPost\Core\Dns\Rdata\Srv;
use HarborPost\Core\Dns\Zone\Zone;

final class TargetIsNoAlias implements ZoneRule
{
    public function explanation(): string
    {
        return 'NS, MX and SRV name a host that has addresses of its own, not an alias, and inside the zone it exists.';
    }

    public function standard(): string
    {
        return 'RFC 2181 §10.3';
    }

    public function at(Zone $zone, array $records): iterable
    {
        foreach ($records as $record) {
            $data = $record->data;
            if (! $data instanceof PointsAt || $data instanceof Ptr) {
                continue;
            }
            $target = $data->target();
            if ($target->isRoot() || ! $target->isIn($zone->origin)) {
                continue;
            }
            $found = $zone->at($target);
            if ($found === []) {
                if ($zone->cutAbove($target) === null && ! self::covered($zone, $target)) {
                    yield new Finding(
                        'target-missing',
                        Severity::Warning,
                        "it points to $target, which has no record in this zone",
                        'RFC 1912 §2.4',
                        $record->owner,
                        $record->type(),
                        "add an address for $target or point elsewhere",
                    );
                }
            } elseif (($data instanceof Ns || $data instanceof Mx || $data instanceof Srv) && $found[0]->data instanceof Cname) {
                yield new Finding(
                    'target-is-alias',
                    Severity::Error,
                    "it points to $target, which is an alias",
                    $data instanceof Srv ? 'RFC 2782' : $this->standard(),
                    $record->owner,
                    $record->type(),
                    "point to {$found[0]->data->target()}",
                );
            }
        }
    }

    /** Would a wildcard answer for the name (RFC 4592)? */
    private static function covered(Zone $zone, Name $name): bool
    {
        for ($up = $name->parent(); $up !== null && $up->isIn($zone->origin); $up = $up->parent()) {
            if ($zone->has($up->prepend('*'))) {
                return true;
            }
        }

        return false;
    }
}
