<?php

declare(strict_types=1);

namespace App\Domain\Plan;

/** The columns of the table of an address plan; own fields are columns "own:NAME". */
final class PlanColumns
{
    public const ALL = [
        'prefix', 'kind', 'stage', 'name', 'site', 'vlan', 'gateway', 'description', 'address', 'mac', 'role', 'tenant', 'tags',
        'origin', 'origin_on', 'origin_handle', 'owner', 'interface', 'device', 'zone',
    ];

    public static function has(string $name): bool
    {
        return in_array($name, self::ALL, true) || str_starts_with($name, 'own:');
    }
}
