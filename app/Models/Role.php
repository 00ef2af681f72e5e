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

    /**
     * What it comes with; a steward may take some of it away (RoleLimit).
     *
     * @return list<Power>
     */
    public function powers(): array
    {
        return match ($this) {
            self::Steward => [Power::Places, Power::People, Power::NameService, Power::Ship, Power::Watch],
            self::Planner => [
                Power::Space, Power::Hosts, Power::Names, Power::NameService, Power::Keys, Power::Leases, Power::Ship, Power::Files,
                Power::Places, Power::Watch,
            ],
            self::Operator => [
                Power::Hosts, Power::Names, Power::NameService, Power::Keys, Power::Leases, Power::Ship, Power::Files, Power::Places,
                Power::Watch,
            ],
            self::Approver => [Power::Approve],
            self::TenantAdmin => [Power::Hosts, Power::Names, Power::Leases],
            self::Reader, self::Guest => [],
        };
    }

    /** Of a power that it comes with in part, that part. */
    public function only(Power $power): ?string
    {
        return match ([$this, $power]) {
            [self::Steward, Power::Places] => 'servers',
            [self::Steward, Power::Ship] => 'systems outside',
            [self::Steward, Power::NameService] => 'rights on names',
            [self::Steward, Power::Watch] => 'what is kept',
            [self::Operator, Power::Places] => 'devices, views, servers',
            [self::TenantAdmin, Power::Leases] => 'reservations',
            default => null,
        };
    }

    /** As people call it. */
    public function words(): string
    {
        return str_replace('-', ' ', $this->value);
    }

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
