<?php

declare(strict_types=1);

namespace App\Models;

/** What a person does here; somebody may do several. */
enum Role: string
{
    case Steward = 'steward';
    case Planner = 'planner';
    case Operator = 'operator';
    case Approver = 'approver';
    case TenantAdmin = 'tenant-admin';
    case Reader = 'reader';
    case Guest = 'guest';

    /** For the people page. */
    public function explained(): string
    {
        return match ($this) {
            self::Steward => 'people, grants, servers',
            self::Planner => 'spaces, prefixes, sites, VLANs, zones',
            self::Operator => 'hosts, records, scopes; ships',
            self::Approver => 'decides on drafts',
            self::TenantAdmin => 'hosts, records and reservations of one tenant',
            self::Reader => 'sees, and writes nothing',
            self::Guest => 'sees and does what is granted, and nothing else',
        };
    }
}
