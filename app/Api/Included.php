<?php

declare(strict_types=1);

namespace App\Api;

use App\Models\Model;
use App\Queries\Reach;
use Illuminate\Support\Collection;

/** Objects that others name, given beside them: read in sets, and only what the person may see. */
final class Included
{
    /** collection → what may be asked for → the column that names it, and its collection */
    private const OF = [
        'sites' => ['parent' => ['parent_id', 'sites'], 'tenant' => ['tenant_id', 'tenants']],
        'devices' => ['site' => ['site_id', 'sites'], 'tenant' => ['tenant_id', 'tenants']],
        'layer-2-domains' => ['site' => ['site_id', 'sites']],
        'vlans' => ['domain' => ['domain_id', 'layer-2-domains']],
        'prefixes' => ['space' => ['space_id', 'spaces'], 'site' => ['site_id', 'sites'], 'vlan' => ['vlan_id', 'vlans'],
            'tenant' => ['tenant_id', 'tenants']],
        'addresses' => ['prefix' => ['prefix_id', 'prefixes'], 'device' => ['device_id', 'devices']],
        'zones' => ['view' => ['view_id', 'views'], 'tenant' => ['tenant_id', 'tenants']],
        'records' => ['zone' => ['zone_id', 'zones'], 'address' => ['address_id', 'addresses']],
        'servers' => ['site' => ['site_id', 'sites'], 'tenant' => ['tenant_id', 'tenants']],
        'scopes' => ['prefix' => ['prefix_id', 'prefixes'], 'pair' => ['pair_id', 'pairs']],
        'reservations' => ['scope' => ['scope_id', 'scopes'], 'address' => ['address_id', 'addresses']],
        'leases' => ['scope' => ['scope_id', 'scopes'], 'server' => ['server_id', 'servers']],
    ];

    /** @return array<string, array{string, string}> what a list names → the column that names it, and its collection */
    public static function named(string $collection): array
    {
        return self::OF[$collection] ?? [];
    }

    /** @return array<string, string> what names an object of a list → by which column */
    public static function naming(string $collection): array
    {
        $naming = [];
        foreach (self::OF as $from => $named) {
            foreach ($named as [$column, $to]) {
                if ($to === $collection) {
                    $naming[$from] ??= $column;
                }
            }
        }

        return $naming;
    }

    /** @return list<string> what may be asked for with a list */
    public static function names(string $collection): array
    {
        return array_keys(self::OF[$collection] ?? []);
    }

    /**
     * @return list<string> what was asked for
     *
     * @throws Problem for what there is not
     */
    public static function read(string $collection, string $asked): array
    {
        $names = array_values(array_unique(array_filter(explode(',', $asked), static fn (string $n): bool => $n !== '')));
        foreach ($names as $name) {
            if (! isset(self::OF[$collection][$name])) {
                $known = self::names($collection);
                throw Problem::of(400, 'bad-parameter', "include: \"$name\" is not named by $collection; there is "
                    .($known === [] ? 'nothing to include' : implode(', ', $known)).'.');
            }
        }

        return $names;
    }

    /**
     * @param  Collection<int, covariant Model>  $rows
     * @param  list<string>  $names  as they were read
     * @return array<string, array<string, ?array<string, mixed>>> row → name → the object; null where there is none to be seen
     */
    public static function of(string $collection, Collection $rows, array $names, Reach $reach): array
    {
        $given = [];
        foreach ($names as $name) {
            [$column, $others] = self::OF[$collection][$name];
            $ids = $rows->map(static fn (Model $row): mixed => $row->getAttribute($column))->filter()->unique()->values()->all();
            $query = $ids === [] ? null : Collections::query($others, $reach);
            $found = $query === null ? collect() : $query->with(Collections::with($others))
                ->whereIn($query->getModel()->getQualifiedKeyName(), $ids)->get()->keyBy('id');
            foreach ($rows as $row) {
                $other = $found[$row->getAttribute($column)] ?? null;
                $given[(string) $row->getKey()][$name] = $other instanceof Model ? Collections::object($others, $other) : null;
            }
        }

        return $given;
    }
}
