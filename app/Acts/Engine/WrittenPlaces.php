<?php

declare(strict_types=1);

namespace App\Acts\Engine;

use App\Models\Prefix;
use App\Queries\Ancestors;
use Illuminate\Support\Facades\DB;

/** Where a change is: the sites, zones and servers of the rows that it writes. */
final class WrittenPlaces
{
    /** Objects that tell where they are by themselves: noun → kind of place. */
    private const ITSELF = [
        'site' => 'site', 'prefix' => 'prefix', 'scope' => 'scope', 'layer-2 domain' => 'domain', 'server' => 'server',
    ];

    /** Objects that are where the one is to which they belong. */
    private const WITHIN = [
        'address' => 'prefix', 'held run' => 'prefix', 'range' => 'scope', 'exclusion' => 'scope', 'delegation' => 'scope',
        'reservation' => 'scope',
        'scope on a server' => 'scope', 'option' => 'layer',
    ];

    /**
     * @param  list<Written>  $written
     * @param  list<array<string, array{add: int, cut: int, within: array<string, true>}>>  $many  what each act wrote in bulk
     * @return list<string> the sites of what is written, and all that they stand in
     */
    public static function sites(array $written, array $many = []): array
    {
        return self::withOuter(self::at($written, $many));
    }

    /**
     * @param  list<Written>  $written
     * @return array{site: list<string>, zone: list<string>, server: list<string>} names, for people
     */
    public static function names(array $written): array
    {
        $zones = $servers = [];
        foreach ($written as $one) {
            if ($one->noun === 'zone') {
                $zones[$one->id] = true;
            }
            if (in_array($one->noun, ['record', 'zone on a server'], true) && $one->within !== null) {
                $zones[$one->within] = true;
            }
            foreach ([$one->before['server_id'] ?? null, $one->after['server_id'] ?? null] as $id) {
                is_string($id) ? $servers[$id] = true : null;
            }
        }
        $names = static fn (string $table, array $ids): array => $ids === [] ? []
            : array_values(array_map(strval(...), DB::table($table)->whereIn('id', $ids)->orderBy('name')->pluck('name')->all()));

        return [
            'site' => $names('sites', self::at($written, [])),
            'zone' => array_values(array_unique(array_map(
                static fn (string $n): string => rtrim($n, '.'),
                $names('zones', array_keys($zones)),
            ))),
            'server' => $names('servers', array_keys($servers)),
        ];
    }

    /**
     * Sites of what is written: its own, that of its subnet, or that of its layer-2 domain.
     *
     * @param  list<Written>  $written
     * @param  list<array<string, array{add: int, cut: int, within: array<string, true>}>>  $many  what each act wrote in bulk
     * @return list<string>
     */
    private static function at(array $written, array $many): array
    {
        $ids = ['site' => [], 'prefix' => [], 'scope' => [], 'domain' => [], 'server' => [], 'layer' => []];
        foreach ($many as $nouns) {
            foreach (array_intersect_key(self::WITHIN, $nouns) as $noun => $kind) {
                $ids[$kind] += $nouns[$noun]['within'];
            }
        }
        foreach ($written as $one) {
            if (isset(self::ITSELF[$one->noun])) {
                $ids[self::ITSELF[$one->noun]][$one->id] = true;
            }
            if ($one->within !== null && isset(self::WITHIN[$one->noun])) {
                $ids[self::WITHIN[$one->noun]][$one->within] = true;
            }
            if ($one->noun === 'VLAN') {
                $ids['domain'][(string) DB::table('vlans')->where('id', $one->id)->value('domain_id')] = true;
            }
            foreach (['site_id' => 'site', 'prefix_id' => 'prefix', 'scope_id' => 'scope', 'domain_id' => 'domain'] as $column => $kind) {
                foreach ([$one->before[$column] ?? null, $one->after[$column] ?? null] as $id) {
                    if (is_string($id)) {
                        $ids[$kind][$id] = true;
                    }
                }
            }
        }
        $of = static fn (string $table, string $column, array $of): array => $of === [] ? []
            : DB::table($table)->whereIn('id', array_map(strval(...), array_keys($of)))->whereNotNull($column)->pluck($column)->all();
        // An option stands at a scope, or at what gives it to scopes.
        $ids['scope'] += $ids['layer'] + array_fill_keys($of('reservations', 'scope_id', $ids['layer']), true);
        $prefixes = array_values([...array_keys($ids['prefix']), ...$of('scopes', 'prefix_id', $ids['scope'])]);
        $sites = [
            ...array_keys($ids['site']), ...$of('sites', 'id', $ids['layer']), ...self::sitesOf($prefixes),
            ...$of('layer2_domains', 'site_id', $ids['domain']), ...$of('servers', 'site_id', $ids['server'] + $ids['layer']),
        ];

        return array_values(array_unique(array_map(strval(...), $sites)));
    }

    /**
     * @param  list<mixed>  $prefixes
     * @return list<string> a prefix without a site stands at that of the nearest one around it
     */
    private static function sitesOf(array $prefixes): array
    {
        $sites = [];
        foreach (array_chunk(array_values(array_unique($prefixes, SORT_REGULAR)), 1000) as $chunk) {
            foreach (Prefix::query()->whereIn('id', $chunk)->get() as $row) {
                $site = $row->site_id ?? Ancestors::of($row->space_id, $row->prefix())->reverse()
                    ->first(static fn (Prefix $p): bool => $p->site_id !== null)?->site_id;
                if ($site !== null) {
                    $sites[] = $site;
                }
            }
        }

        return $sites;
    }

    /**
     * @param  list<string>  $sites
     * @return list<string>
     */
    private static function withOuter(array $sites): array
    {
        $parents = $sites === [] ? [] : DB::table('sites')->pluck('parent_id', 'id')->all();
        $all = [];
        foreach ($sites as $site) {
            for ($at = $site, $deep = 0; is_string($at) && $deep < 32; $at = $parents[$at] ?? null, $deep++) {
                $all[$at] = true;
            }
        }

        return array_map(strval(...), array_keys($all));
    }
}
