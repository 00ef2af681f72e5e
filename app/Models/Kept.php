<?php

declare(strict_types=1);

namespace App\Models;

/** What is over and kept for a while: each a table, found by the time at which a row was over. */
enum Kept: string
{
    case FormerLeases = 'former-leases';
    case Notices = 'notices';
    case Reports = 'reports';
    case Mails = 'mails';
    case Shipments = 'shipments';
    case Scans = 'scans';
    case Leases = 'leases';
    case Sightings = 'sightings';
    case Imports = 'imports';
    case Deliveries = 'deliveries';
    case Use = 'use';

    public function title(): string
    {
        return match ($this) {
            self::FormerLeases => 'Former leases: who had an address',
            self::Notices => 'Notices that are over',
            self::Reports => 'Reports that were brought',
            self::Mails => 'Mails that were sent or given up',
            self::Shipments => 'Shipments that ended, with their steps',
            self::Scans => 'Scans that ended, with what they saw',
            self::Leases => 'Leases that their server has no more',
            self::Sightings => 'Addresses not seen since',
            self::Imports => 'Imports that ended, and files',
            self::Deliveries => 'Calls of hooks, with their answers',
            self::Use => 'Use of prefixes, a sample a day',
        };
    }

    /** @return array{string, string} table, and the column that says since when a row is over; null there: it is not */
    public function place(): array
    {
        return match ($this) {
            self::FormerLeases => ['lease_bindings', 'until_at'],
            self::Notices => ['notices', 'over_at'],
            self::Reports => ['report_runs', 'done_at'],
            self::Mails => ['mails', 'made_at'],
            self::Shipments => ['shipments', 'finished_at'],
            self::Scans => ['scans', 'finished_at'],
            self::Leases => ['leases', 'gone_at'],
            self::Sightings => ['sightings', 'last_seen'],
            self::Imports => ['imports', 'started_at'],
            self::Deliveries => ['hook_deliveries', 'at'],
            self::Use => ['use_samples', 'day'],
        };
    }

    /** Days, unless somebody says otherwise. */
    public function usual(): int
    {
        return match ($this) {
            self::Mails, self::Imports, self::Deliveries => 90,
            self::Scans => 180,
            self::Notices, self::Reports, self::Shipments, self::Leases => 365,
            self::FormerLeases, self::Sightings => 730,
            self::Use => 1095,
        };
    }

    /** Fewer days than this would take away what pages still compute with. */
    public function least(): int
    {
        return $this === self::Use ? 180 : 7;
    }
}
