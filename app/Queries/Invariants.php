<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Prefix;
use App\Models\PrefixKind;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Planning\OpenSpace;
use Illuminate\Support\Facades\DB;

/**
 * What must be so in the whole database, whoever wrote it and however many at once: each a sentence, and what breaks it. Asked over all
 * rows, by sets; the tree in one walk.
 */
final class Invariants
{
    private const PAGE = 2000;

    /** sentence → a query that gives one text for each row that breaks it */
    private const BY_QUERY = [
        'an alias stands alone at its name' => "SELECT CONCAT(MIN(owner), ' in ', MIN(zone_id)) FROM records GROUP BY zone_id, "
            .'owner_key HAVING SUM(type = 5) > 0 AND COUNT(*) > 1',
        'a record set has one TTL' => "SELECT CONCAT(MIN(owner), ' type ', type) FROM records GROUP BY zone_id, owner_key, type "
            .'HAVING COUNT(DISTINCT COALESCE(ttl, -1)) > 1',
        'a record stands in its zone' => "SELECT CONCAT(r.owner, ' in ', z.name) FROM records r JOIN zones z ON z.id = "
            ."r.zone_id WHERE r.owner != z.name AND RIGHT(r.owner, CHAR_LENGTH(z.name) + 1) != CONCAT('.', z.name) AND z.name != '.'",
        'no journal is ahead of its zone' => 'SELECT CONCAT(z.name, \' \', c.serial) FROM record_changes c JOIN zones z ON z.id '
            .'= c.zone_id WHERE c.serial IS NOT NULL AND c.serial != z.serial AND CAST(z.serial AS SIGNED) - CAST(c.serial AS '
                .'SIGNED) BETWEEN -2147483647 AND -1 GROUP BY z.id, z.name, c.serial',
        'held runs do not overlap' => 'SELECT CONCAT(a.id, \' and \', b.id) FROM held_runs a JOIN held_runs b ON b.prefix_id = '
            .'a.prefix_id AND b.id > a.id AND b.first <= a.last AND b.last >= a.first',
        'ranges of a scope do not overlap' => 'SELECT CONCAT(s.name, \': \', INET6_NTOA(a.first), \' and \', '
            .'INET6_NTOA(b.first)) FROM scope_ranges a JOIN scope_ranges b ON b.scope_id = a.scope_id AND b.id > a.id AND '
                .'b.first <= a.last AND b.last >= a.first JOIN scopes s ON s.id = a.scope_id',
        'a range on several servers is divided between them' => 'SELECT s.name FROM scope_ranges r JOIN scopes s ON s.id = '
            .'r.scope_id WHERE r.server_id IS NULL AND s.pair_id IS NULL AND '
                .'(SELECT COUNT(*) FROM scope_servers p WHERE p.scope_id = s.id) > 1 GROUP '
                .'BY s.id, s.name',
        'a share belongs to a server of its scope' => 'SELECT s.name FROM scope_ranges r JOIN scopes s ON s.id = r.scope_id '
            .'WHERE r.server_id IS NOT NULL AND NOT EXISTS (SELECT 1 FROM scope_servers p WHERE p.scope_id = s.id AND '
                .'p.server_id = r.server_id)',
        'an address is in use once on all servers' => "SELECT CONCAT(INET6_NTOA(address), ': ', "
            ."COUNT(DISTINCT COALESCE(client_id, mac)), ' clients') FROM leases WHERE state = 'active' AND ends_at > UTC_TIMESTAMP() "
                .'AND gone_at IS NULL GROUP BY scope_id, address HAVING COUNT(DISTINCT COALESCE(client_id, mac)) > 1',
        'pools that are delegated do not overlap' => "SELECT CONCAT(s.name, ' and ', t.name) FROM scope_delegations a JOIN "
            .'scope_delegations b ON b.id > a.id JOIN scopes s ON s.id = a.scope_id JOIN scopes t ON t.id = b.scope_id JOIN prefixes p '
                .'ON p.id = s.prefix_id JOIN prefixes q ON q.id = t.prefix_id AND q.space_id = p.space_id WHERE '
                .'SUBSTRING(HEX(a.first), 1, LEAST(a.pool_length, b.pool_length) DIV 4) = '
                .'SUBSTRING(HEX(b.first), 1, LEAST(a.pool_length, b.pool_length) DIV 4) AND LEAST(a.pool_length, b.pool_length) % 4 = 0',
        'a pool on several servers is divided between them' => 'SELECT s.name FROM scope_delegations d JOIN scopes s ON s.id = '
            .'d.scope_id WHERE d.server_id IS NULL AND (SELECT COUNT(*) FROM scope_servers p WHERE p.scope_id = s.id) > 1',
        'a pool belongs to a server of its scope' => 'SELECT s.name FROM scope_delegations d JOIN scopes s ON s.id = d.scope_id '
            .'WHERE d.server_id IS NOT NULL AND NOT EXISTS (SELECT 1 FROM scope_servers p WHERE p.scope_id = s.id AND '
                .'p.server_id = d.server_id)',
        'only IPv6 is delegated, preferred and known by DUID' => 'SELECT s.name FROM scopes s JOIN prefixes p ON p.id = s.prefix_id '
            .'WHERE p.family = 4 AND (s.preferred_time IS NOT NULL OR s.rapid_commit OR EXISTS (SELECT 1 FROM scope_delegations d '
                .'WHERE d.scope_id = s.id)) OR p.family = 6 AND (s.pair_id IS NOT NULL OR EXISTS (SELECT 1 FROM reservations r '
                .'WHERE r.scope_id = s.id AND r.client_id IS NULL))',
        'a scope of a pair is on both of its servers, and on no other' => 'SELECT s.name FROM scopes s JOIN pairs p ON p.id = '
            .'s.pair_id WHERE (SELECT COUNT(*) FROM scope_servers x WHERE x.scope_id = s.id) != 2 OR (SELECT COUNT(*) FROM '
                .'scope_servers x WHERE x.scope_id = s.id AND x.server_id IN (p.first_id, p.second_id)) != 2',
        'a scope names a pair that is there' => 'SELECT s.name FROM scopes s WHERE s.pair_id IS NOT NULL AND NOT EXISTS (SELECT 1 FROM '
            .'pairs p WHERE p.id = s.pair_id)',
        'an option belongs to a scope that is there' => "SELECT o.id FROM option_values o WHERE o.layer = 'scope' AND NOT "
            .'EXISTS (SELECT 1 FROM scopes s WHERE s.id = o.layer_id)',
        'a setting belongs to a place that is there' => "SELECT s.id FROM settings s WHERE s.layer = 'site' AND NOT EXISTS "
            ."(SELECT 1 FROM sites x WHERE x.id = s.layer_id) OR s.layer = 'prefix' AND NOT EXISTS (SELECT 1 FROM prefixes x "
                .'WHERE x.id = s.layer_id)',
        'words that are found are words of what is there' => 'SELECT w.row_id FROM words w LEFT JOIN addresses a ON a.id = w.row_id '
            .'LEFT JOIN prefixes p ON p.id = w.row_id LEFT JOIN reservations r ON r.id = w.row_id '
                .'LEFT JOIN records n ON n.id = w.row_id '
                .'WHERE a.id IS NULL AND p.id IS NULL AND r.id IS NULL AND n.id IS NULL GROUP BY w.row_id',
        'what has a name is found by its words' => "SELECT a.name FROM addresses a WHERE a.name REGEXP '^[a-z0-9]' AND NOT EXISTS "
            .'(SELECT 1 FROM words w WHERE w.row_id = a.id) UNION ALL SELECT p.name FROM prefixes p WHERE '
                ."p.name REGEXP '^[A-Za-z0-9]' AND NOT EXISTS (SELECT 1 FROM words w WHERE w.row_id = p.id) UNION ALL "
                ."SELECT n.owner FROM records n WHERE n.owner REGEXP '^[a-z0-9]' AND n.owner NOT LIKE '%.arpa.' AND NOT EXISTS "
                .'(SELECT 1 FROM words w WHERE w.row_id = n.id)',
        'nobody has a right on names twice' => 'SELECT MIN(id) FROM name_grants GROUP BY person_id, zone_id, COALESCE(owner, '
            .'\'\'), COALESCE(type, 0) HAVING COUNT(*) > 1',
        'edits of a person go to one draft' => 'SELECT person_id FROM draft_hands WHERE current = 1 GROUP BY person_id HAVING COUNT(*) > 1',
        'the author of a draft works on it' => 'SELECT d.id FROM drafts d LEFT JOIN draft_hands h ON h.draft_id = d.id '
            .'AND h.person_id = d.person_id WHERE h.id IS NULL',
        'hosts live in subnets of their space' => 'SELECT CONVERT(INET6_NTOA(a.address) USING utf8mb4) FROM addresses a JOIN '
            ."prefixes p ON p.id = a.prefix_id WHERE p.kind != 'subnet' OR p.space_id != a.space_id OR p.family != a.family OR "
                .'a.address < p.first',
        'a reservation belongs to its host, or to none' => 'SELECT r.id FROM reservations r JOIN addresses a ON a.id = '
            .'r.address_id WHERE r.address != a.address',
        'a name of a host points at its address' => 'SELECT r.owner FROM records r JOIN addresses a ON a.id = r.address_id '
            .'WHERE r.type IN (1, 28) AND r.data_hash != UNHEX(MD5(a.address))',
        'the use of a subnet is counted right' => 'SELECT CONCAT(p.id, \': counted \', p.used + COALESCE((SELECT SUM(delta) '
            .'FROM use_deltas d WHERE d.prefix_id = p.id), 0)) FROM prefixes p WHERE p.used + COALESCE((SELECT SUM(delta) FROM '
                .'use_deltas d WHERE d.prefix_id = p.id), 0) != (SELECT COUNT(*) FROM addresses a WHERE a.prefix_id = p.id)',
    ];

    private const BY_WALK = [
        'every prefix hangs below the closest supernet', 'no prefix lies in a subnet or pool',
        'children and carved space are counted right', 'open blocks are what is open', 'tenants are handed down',
        'hosts lie inside their subnet', 'ranges and reservations lie inside their subnet',
    ];

    private const SHOWN = 5;

    /** @return \Generator<string, array{count: int, some: list<string>}> sentence → what breaks it */
    public static function all(): \Generator
    {
        foreach (self::BY_QUERY as $sentence => $query) {
            $rows = array_map(static fn (object $r): string => (string) array_values((array) $r)[0], array_values(DB::select($query)));
            yield $sentence => ['count' => count($rows), 'some' => array_slice($rows, 0, self::SHOWN)];
        }
        $found = array_fill_keys(self::BY_WALK, ['count' => 0, 'some' => []]);
        $say = static function (int $which, string $what) use (&$found): void {
            $found[self::BY_WALK[$which]]['count']++;
            if (count($found[self::BY_WALK[$which]]['some']) < self::SHOWN) {
                $found[self::BY_WALK[$which]]['some'][] = $what;
            }
        };
        foreach (DB::table('spaces')->pluck('id') as $space) {
            foreach ([4, 6] as $family) {
                self::walk((string) $space, $family, $say);
            }
        }
        self::inside($say);
        yield from $found;
    }

    /** @param  \Closure(int, string): void  $say */
    private static function walk(string $space, int $family, \Closure $say): void
    {
        /** @var list<array{row: Prefix, net: Net, children: int, carved: float, nets: list<Net>}> $above */
        $above = [];
        $leave = static function (?Net $net) use (&$above, $say): void {
            while ($above !== [] && ($net === null || ! $above[count($above) - 1]['net']->contains($net))) {
                self::leave(array_pop($above), $say);
            }
        };
        foreach (self::prefixes($space, $family) as $row) {
            $net = $row->prefix();
            $leave($net);
            $parent = end($above) ?: null;
            if ($row->parent_id !== ($parent === null ? null : $parent['row']->id)) {
                $say(0, $row->line());
            }
            if ($parent !== null && ! $parent['row']->groups) {
                $say(1, "{$row->line()} in {$parent['row']->line()}");
            }
            if ($parent !== null) {
                array_pop($above);
                $parent['children']++;
                $parent['carved'] += 2.0 ** ($parent['net']->length - $net->length);
                $parent['nets'][] = $net;
                $above[] = $parent;
            }
            if ($row->effective_tenant_id !== ($row->tenant_id ?? ($parent === null ? null : $parent['row']->effective_tenant_id))) {
                $say(4, $row->line());
            }
            $above[] = ['row' => $row, 'net' => $net, 'children' => 0, 'carved' => 0.0, 'nets' => []];
        }
        $leave(null);
    }

    /**
     * @param  array{row: Prefix, net: Net, children: int, carved: float, nets: list<Net>}  $node
     * @param  \Closure(int, string): void  $say
     */
    private static function leave(array $node, \Closure $say): void
    {
        if ($node['children'] !== $node['row']->children || abs($node['carved'] - $node['row']->carved) > 1e-9) {
            $say(2, "{$node['row']->line()}: {$node['row']->children} counted, {$node['children']} there");
        }
        $open = DB::table('open_blocks')->where('parent_id', $node['row']->id)->orderBy('first')
            ->get(['first', 'length'])->map(fn (object $b): string => bin2hex((string) $b->first)."/$b->length")->all();
        $meant = ! $node['row']->groups
            ? []
            : array_map(
                static fn (Net $n): string => bin2hex($n->first->bytes)."/$n->length",
                OpenSpace::in($node['net'], $node['nets'])->blocks(),
            );
        sort($open);
        sort($meant);
        if ($open !== $meant) {
            $say(3, $node['row']->line());
        }
    }

    /** @param  \Closure(int, string): void  $say */
    private static function inside(\Closure $say): void
    {
        foreach (Prefix::query()->where('kind', PrefixKind::Subnet)->orderBy('id')->lazyById(self::PAGE)->chunk(self::PAGE) as $subnets) {
            $subnets = $subnets->collect();
            $ids = $subnets->pluck('id')->all();
            $last = $subnets->mapWithKeys(fn (Prefix $p): array => [$p->id => $p->prefix()->last()->bytes]);
            $line = $subnets->mapWithKeys(fn (Prefix $p): array => [$p->id => $p->line()]);
            $highest = [
                5 => DB::table('addresses')->whereIn('prefix_id', $ids)->groupBy('prefix_id')
                    ->selectRaw('prefix_id, MAX(address) AS most')->get(),
                6 => DB::table('scope_ranges')->join('scopes', 'scopes.id', '=', 'scope_ranges.scope_id')
                    ->whereIn('prefix_id', $ids)->groupBy('prefix_id')->selectRaw('prefix_id, MAX(last) AS most')->get()
                    ->concat(
                        DB::table('reservations')->join('scopes', 'scopes.id', '=', 'reservations.scope_id')
                            ->whereIn('prefix_id', $ids)->where('reservations.length', 0)->groupBy('prefix_id')
                            ->selectRaw('prefix_id, MAX(address) AS most')->get(),
                    ),
            ];
            foreach ($highest as $which => $rows) {
                foreach ($rows as $row) {
                    if (strcmp((string) $row->most, (string) $last[$row->prefix_id]) > 0) {
                        $say($which, (string) $line[$row->prefix_id]);
                    }
                }
            }
        }
    }

    /** @return \Generator<int, Prefix> in the order of the tree */
    private static function prefixes(string $space, int $family): \Generator
    {
        $from = '';
        $seen = [];
        do {
            $rows = Prefix::query()->where('space_id', $space)->where('family', $family)->where('first', '>=', $from)
                ->orderBy('first')->orderBy('length')->orderByDesc('groups')->limit(self::PAGE)->get();
            foreach ($rows as $row) {
                if (! isset($seen[$row->id])) {
                    $seen = $row->first->bytes === $from ? $seen : [];
                    $from = $row->first->bytes;
                    $seen[$row->id] = true;
                    yield $row;
                }
            }
        } while ($rows->count() === self::PAGE);
    }
}
