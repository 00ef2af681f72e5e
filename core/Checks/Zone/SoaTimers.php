<?php

declare(strict_types=1);

namespace HarborPost\Core\Checks\Zone;

use HarborPost\Core\Checks\Finding;
use HarborPost\Core\Checks\Severity;
use HarborPost\Core\Checks\ZoneRule;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Zone\Zone;

final class SoaTimers implements ZoneRule
{
    public function explanation(): string
    {
        return 'Retry is shorter than refresh, expire is much longer than both, and "no such name" is not kept for days.';
    }

    public function standard(): string
    {
        return 'RFC 1912 §2.2';
    }

    public function at(Zone $zone, array $records): iterable
    {
        foreach ($records as $record) {
            if (! $record->data instanceof Soa) {
                continue;
            }
            foreach (self::faults($record->data) as [$code, $message, $standard, $fix]) {
                yield new Finding($code, Severity::Warning, $message, $standard, $record->owner, $record->type(), $fix);
            }
        }
    }

    /**
     * Shared with the form that sets the timers.
     *
     * @return list<array{string, string, string, string}> code, message, standard, fix
     */
    public static function faults(Soa $soa): array
    {
        $faults = [];
        if ($soa->retry >= $soa->refresh) {
            $faults[] = [
                'soa-retry', "retry $soa->retry s is not shorter than refresh $soa->refresh s", 'RFC 1912 §2.2',
                'a retry of a fraction of refresh',
            ];
        }
        if ($soa->expire <= $soa->refresh + $soa->retry) {
            $faults[] = [
                'soa-expire',
                "expire $soa->expire s is not longer than refresh and retry together: a secondary gives up after one miss",
                'RFC 1912 §2.2',
                'an expire of 1209600 s (two weeks)',
            ];
        }
        if ($soa->negativeTtl > 86400) {
            $faults[] = [
                'soa-negative-ttl',
                "\"no such name\" is kept for $soa->negativeTtl s, so a new name is not seen for that long",
                'RFC 2308 §5',
                'a negative TTL of one to three hours',
            ];
        }

        return $faults;
    }
}
