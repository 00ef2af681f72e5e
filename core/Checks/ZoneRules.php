<?php

declare(strict_types=1);

namespace HarborPost\Core\Checks;

use HarborPost\Core\Checks\Zone\AliasLoops;
use HarborPost\Core\Checks\Zone\BelowDname;
use HarborPost\Core\Checks\Zone\CnameAlone;
use HarborPost\Core\Checks\Zone\Delegations;
use HarborPost\Core\Checks\Zone\EqualTtls;
use HarborPost\Core\Checks\Zone\OneSoa;
use HarborPost\Core\Checks\Zone\OneSpf;
use HarborPost\Core\Checks\Zone\SoaTimers;
use HarborPost\Core\Checks\Zone\TargetIsNoAlias;
use HarborPost\Core\Checks\Zone\TextChunks;
use HarborPost\Core\Checks\Zone\WildcardReach;
use HarborPost\Core\Checks\Zone\ZeroTtl;
use HarborPost\Core\Dns\Rdata\HoldsAddress;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Zone\Zone;

/** The list of all rules for zones, and the walk that asks them. */
final class ZoneRules
{
    /** @return list<ZoneRule> */
    public static function all(): array
    {
        return [
            new OneSoa,
            new SoaTimers,
            new CnameAlone,
            new AliasLoops,
            new EqualTtls,
            new ZeroTtl,
            new TargetIsNoAlias,
            new Delegations,
            new BelowDname,
            new OneSpf,
            new TextChunks,
            new WildcardReach,
        ];
    }

    /** @return iterable<Finding> in the order of the zone */
    public static function check(Zone $zone): iterable
    {
        if ($zone->soa() === null) {
            yield new Finding(
                'soa-missing',
                Severity::Error,
                'the zone has no SOA at its top',
                'RFC 1035 §5.2',
                $zone->origin,
                RecordType::of(RecordType::SOA),
                'add one',
            );
        }
        if (! $zone->has($zone->origin, RecordType::NS)) {
            yield new Finding(
                'ns-missing',
                Severity::Error,
                'the zone has no NS at its top',
                'RFC 1912 §2.8',
                $zone->origin,
                RecordType::of(RecordType::NS),
                'add the name servers',
            );
        }
        $rules = self::all();
        $delegates = $zone->delegates();
        foreach ($zone->owners() as $records) {
            // No rule speaks of one address alone at a name, outside every delegation: most of a large zone is that.
            if (! $delegates && count($records) === 1 && $records[0]->data instanceof HoldsAddress && $records[0]->ttl > 0) {
                continue;
            }
            foreach ($rules as $rule) {
                yield from $rule->at($zone, $records);
            }
        }
    }
}
