<?php

declare(strict_types=1);

namespace App\Queries;

use Carbon\CarbonImmutable;
use Illuminate\Database\Connection;
use Illuminate\Support\Facades\DB;

/**
 * The machines that Harbor Post runs on, and the nodes that hold its rows.
 *
 * @phpstan-import-type Check from Health
 */
final class Machines
{
    /** Seconds after which a machine counts as silent. */
    private const SILENT = 60;

    /** What one machine alone does at a time, as people call it. */
    private const DUTIES = ['clockwork' => 'what is due by itself', 'default' => 'imports and other work'];

    /** @return list<array{name: string, since: CarbonImmutable, silent: ?int, does: list<string>}> silent: seconds, where it is too long */
    public static function all(): array
    {
        $duties = DB::table('duties')->whereRaw('until >= UTC_TIMESTAMP(3)')->orderBy('name')->get()->groupBy('machine');
        $machines = [];
        $seen = DB::table('machines')->orderBy('name')
            ->get(['name', 'started_at', DB::raw('TIMESTAMPDIFF(SECOND, seen_at, UTC_TIMESTAMP(3)) AS ago')]);
        foreach ($seen as $machine) {
            $machines[] = [
                'name' => (string) $machine->name, 'since' => CarbonImmutable::parse((string) $machine->started_at),
                'silent' => (int) $machine->ago > self::SILENT ? (int) $machine->ago : null,
                'does' => self::words(($duties[$machine->name] ?? collect())->pluck('name')->map(strval(...))->all()),
            ];
        }

        return $machines;
    }

    /**
     * @param  array<string>  $duties
     * @return list<string>
     */
    private static function words(array $duties): array
    {
        $lanes = count(array_filter($duties, static fn (string $d): bool => str_starts_with($d, 'ship-')));
        $words = array_values(array_intersect_key(self::DUTIES, array_flip($duties)));

        return $lanes === 0 ? $words : [...$words, $lanes === 1 ? 'shipments in one lane' : "shipments in $lanes lanes"];
    }

    /** @return ?array{size: int, of: int, primary: bool, writes: string, reads: string} null where it is one database alone */
    public static function nodes(): ?array
    {
        $connection = DB::connection();
        $is = self::states($connection, false);
        if (($is['wsrep_cluster_size'] ?? '0') === '0') {
            return null;
        }

        return [
            'size' => (int) $is['wsrep_cluster_size'], 'of' => (int) config('harbor.nodes'),
            'primary' => ($is['wsrep_cluster_status'] ?? '') === 'Primary',
            'writes' => self::name($connection, false), 'reads' => self::name($connection, true),
        ];
    }

    /** @return array<string, Check> */
    public static function checks(): array
    {
        $nodes = self::nodes();
        $silent = array_column(array_filter(self::all(), static fn (array $m): bool => $m['silent'] !== null), 'name');
        $checks = [];
        if ($nodes !== null) {
            $whole = $nodes['primary'] && ($nodes['of'] === 0 || $nodes['size'] >= $nodes['of']);
            $checks['nodes'] = [
                'ok' => $whole, 'must' => false,
                'says' => "$nodes[size]".($nodes['of'] > 0 ? " of $nodes[of]" : '')." hold all rows; written to is $nodes[writes]",
            ];
        }
        if ($silent !== []) {
            $checks['machines'] = ['ok' => false, 'must' => false, 'says' => implode(', ', $silent).' was not heard of for a minute'];
        }

        return $checks;
    }

    /** @return array<string, string> */
    private static function states(Connection $connection, bool $read): array
    {
        $rows = $connection->select(
            "SHOW STATUS WHERE Variable_name IN ('wsrep_cluster_size', 'wsrep_cluster_status')", [], $read,
        );

        return array_map(strval(...), array_column($rows, 'Value', 'Variable_name'));
    }

    private static function name(Connection $connection, bool $read): string
    {
        return (string) ($connection->selectOne('SELECT @@wsrep_node_name AS name', [], $read)->name ?? '');
    }
}
