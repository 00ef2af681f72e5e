<?php

declare(strict_types=1);

namespace App\Queries\Facts;

use App\Models\FactKind;

/** What is known of each kind of object, as it is read from the tables that FactKind joins. */
final class Catalogue
{
    /** Addresses that hosts of a subnet may have; nothing for IPv6, where counting them says nothing. */
    /** How many addresses a range x has: of IPv6 the last 64 bits are subtracted, and what reaches further counts as 2^53. */
    private const RANGE = 'LEAST(9007199254740992, IF(LEFT(HEX(x.last), 2 * GREATEST(0, LENGTH(x.last) - 8)) = '
        .'LEFT(HEX(x.first), 2 * GREATEST(0, LENGTH(x.first) - 8)), CAST(CONV(RIGHT(HEX(x.last), 16), 16, 10) AS DECIMAL(39, 0)) - '
        .'CAST(CONV(RIGHT(HEX(x.first), 16), 16, 10) AS DECIMAL(39, 0)) + 1, 9007199254740992))';

    private const USABLE = 'CASE WHEN p.family = 4 THEN GREATEST(1, POW(2, 32 - p.length) - IF(p.length < 31, 2, 0)) END';

    /** @return non-empty-array<string, Fact> the first one names the object */
    public static function of(FactKind $kind): array
    {
        /** @var array<string, non-empty-array<string, Fact>> $known */
        static $known = [];

        $known[$kind->value] ??= match ($kind) {
            FactKind::Subnet => self::subnet(),
            FactKind::Address => self::address(),
            FactKind::Zone => self::zone(),
            FactKind::Scope => self::scope(),
            FactKind::Vlan => self::vlan(),
            FactKind::Server => self::server(),
            FactKind::Device => self::device(),
            FactKind::Change => self::change(),
            FactKind::Person => self::person(),
        };

        return $kind === FactKind::Subnet ? $known[$kind->value] + app(OwnFacts::class)->all() : $known[$kind->value];
    }

    /** The fact that names an object, by which lists stand unless something else is asked for. */
    public static function title(FactKind $kind): string
    {
        return array_key_first(self::of($kind));
    }

    /** @return non-empty-array<string, Fact> */
    private static function subnet(): array
    {
        $used = 'p.used + IF(p.gateway IS NULL, 0, 1)';

        return [
            'prefix' => new Fact('Subnet', "CONCAT(HEX(p.first), ' ', p.length)", FactType::Prefix),
            'name' => new Fact('Name', 'p.name'),
            'stage' => new Fact('Stage', 'p.stage'),
            'site' => new Fact('Site', 's.name'),
            'vlan' => new Fact('VLAN', "CONCAT(v.number, ' ', v.name)"),
            'gateway' => new Fact('Gateway', 'HEX(p.gateway)', FactType::Address),
            'scope' => new Fact('Scope', 'c.name'),
            'use' => new Fact('Use in %', "LEAST(100, 100 * ($used) / (".self::USABLE.'))', FactType::Percent),
            'used' => new Fact('In use', $used, FactType::Number),
            'usable' => new Fact('Usable', self::USABLE, FactType::Number),
            'tenant' => new Fact('Tenant', 't.name'),
            'family' => new Fact('IP version', 'p.family', FactType::Number),
            'role' => new Fact('Role', 'p.role'),
            'description' => new Fact('Description', 'p.description'),
            'tags' => new Fact(
                'Tags',
                "(SELECT GROUP_CONCAT(x.tag ORDER BY x.tag SEPARATOR ', ') FROM prefix_tags x WHERE x.prefix_id = p.id)",
            ),
            'named' => new Fact(
                'Hosts with a name',
                "(SELECT COUNT(*) FROM addresses x WHERE x.prefix_id = p.id AND x.name != '')",
                FactType::Number,
            ),
        ];
    }

    /** @return non-empty-array<string, Fact> */
    private static function address(): array
    {
        return [
            'address' => new Fact('Address', 'HEX(a.address)', FactType::Address),
            'name' => new Fact('Name', 'a.name'),
            'mac' => new Fact(
                'MAC',
                "IF(a.mac IS NULL, NULL, LOWER(INSERT(INSERT(INSERT(INSERT(INSERT(HEX(a.mac), 11, 0, ':'), 9, 0, ':'), 7, 0, ':'), 5, "
                    ."0, ':'), 3, 0, ':')))",
            ),
            'role' => new Fact('Role', 'a.role'),
            'owner' => new Fact('Owner', 'a.owner'),
            'device' => new Fact('Device', 'd.name'),
            'subnet' => new Fact('Subnet', "CONCAT(HEX(p.first), ' ', p.length)", FactType::Prefix),
            'purpose' => new Fact('Name of the subnet', 'p.name'),
            'site' => new Fact('Site', 's.name'),
            'tenant' => new Fact('Tenant', 't.name'),
            'records' => new Fact('Records', '(SELECT COUNT(*) FROM records x WHERE x.address_id = a.id)', FactType::Number),
            'description' => new Fact('Description', 'a.description'),
        ];
    }

    /** @return non-empty-array<string, Fact> */
    private static function zone(): array
    {
        $placed = 'SELECT COUNT(*) FROM zone_servers x WHERE x.zone_id = z.id';

        return [
            'zone' => new Fact('Zone', "TRIM(TRAILING '.' FROM z.name)"),
            'view' => new Fact('View', 'w.name'),
            'serial' => new Fact('Serial', 'z.serial', FactType::Number),
            'servers' => new Fact('Servers', "($placed)", FactType::Number),
            'behind' => new Fact('Servers behind', "($placed AND NOT (x.shipped_serial <=> z.serial))", FactType::Number),
            'waiting' => new Fact(
                'Changes that wait',
                '(SELECT COUNT(*) FROM record_changes x WHERE x.zone_id = z.id AND x.serial IS NULL)',
                FactType::Number,
            ),
            'records' => new Fact('Records', '(SELECT COUNT(*) FROM records x WHERE x.zone_id = z.id)', FactType::Number),
            'policy' => new Fact('Signed by', 'g.name'),
            'signature' => new Fact(
                'First signature ends',
                '(SELECT FROM_UNIXTIME(MIN(x.expires)) FROM signed_records x WHERE x.zone_id = z.id)',
                FactType::Time,
            ),
            'updates' => new Fact('Updates', 'z.update_mode'),
            'ttl' => new Fact('Default TTL', 'z.default_ttl', FactType::Number),
            'expire' => new Fact('Expire', 'z.expire', FactType::Number),
            'silenced' => new Fact('Silenced', 'z.silenced', FactType::Flag),
            'reverse' => new Fact('Reverse', "z.name LIKE '%.arpa.'", FactType::Flag),
            'tenant' => new Fact('Tenant', 't.name'),
            'description' => new Fact('Description', 'z.description'),
        ];
    }

    /** @return non-empty-array<string, Fact> */
    private static function scope(): array
    {
        $size = '(SELECT COALESCE(SUM('.self::RANGE.'), 0) FROM scope_ranges x WHERE x.scope_id = c.id)';
        $active = "(SELECT COUNT(DISTINCT x.address) FROM leases x WHERE x.scope_id = c.id AND x.state = 'active' "
            .'AND x.length = 0 AND x.ends_at > NOW())';

        return [
            'scope' => new Fact('Scope', 'c.name'),
            'subnet' => new Fact('Subnet', "CONCAT(HEX(p.first), ' ', p.length)", FactType::Prefix),
            'site' => new Fact('Site', 's.name'),
            'stage' => new Fact('Stage', 'c.stage'),
            'pool' => new Fact('Addresses to lease', $size, FactType::Number),
            'leases' => new Fact('Leased', $active, FactType::Number),
            'use' => new Fact('Leased in %', "100 * $active / NULLIF($size, 0)", FactType::Percent),
            'time' => new Fact('Lease time', 'c.lease_time', FactType::Number),
            'servers' => new Fact('Servers', '(SELECT COUNT(*) FROM scope_servers x WHERE x.scope_id = c.id)', FactType::Number),
            'reservations' => new Fact('Reservations', '(SELECT COUNT(*) FROM reservations x WHERE x.scope_id = c.id)', FactType::Number),
            'tenant' => new Fact('Tenant', 't.name'),
            'description' => new Fact('Description', 'c.description'),
        ];
    }

    /** @return non-empty-array<string, Fact> */
    private static function vlan(): array
    {
        return [
            'vlan' => new Fact('VLAN', "CONCAT(v.number, ' ', v.name)"),
            'number' => new Fact('Number', 'v.number', FactType::Number),
            'name' => new Fact('Name', 'v.name'),
            'domain' => new Fact('Domain', 'l.name'),
            'subnets' => new Fact(
                'Subnets',
                "(SELECT COUNT(*) FROM prefixes x WHERE x.vlan_id = v.id AND x.kind = 'subnet')",
                FactType::Number,
            ),
            'switch' => new Fact(
                'On the switch',
                'EXISTS (SELECT 1 FROM switch_vlans x WHERE x.domain_id = v.domain_id AND x.number = v.number)',
                FactType::Flag,
            ),
            'description' => new Fact('Description', 'v.description'),
        ];
    }

    /** @return non-empty-array<string, Fact> */
    private static function server(): array
    {
        return [
            'server' => new Fact('Server', 'r.name'),
            'kind' => new Fact('Kind', 'r.kind'),
            'address' => new Fact('Address', 'HEX(r.address)', FactType::Address),
            'site' => new Fact('Site', 's.name'),
            'zones' => new Fact('Zones', '(SELECT COUNT(*) FROM zone_servers x WHERE x.server_id = r.id)', FactType::Number),
            'scopes' => new Fact('Scopes', '(SELECT COUNT(*) FROM scope_servers x WHERE x.server_id = r.id)', FactType::Number),
            'held' => new Fact('Held', 'r.held', FactType::Flag),
        ];
    }

    /** @return non-empty-array<string, Fact> */
    private static function device(): array
    {
        return [
            'device' => new Fact('Device', 'd.name'),
            'kind' => new Fact('Kind', 'd.kind'),
            'site' => new Fact('Site', 's.name'),
            'addresses' => new Fact('Addresses', '(SELECT COUNT(*) FROM addresses x WHERE x.device_id = d.id)', FactType::Number),
        ];
    }

    /** @return non-empty-array<string, Fact> */
    private static function change(): array
    {
        return [
            'at' => new Fact('When (UTC)', "DATE_FORMAT(h.at, '%Y-%m-%d %H:%i:%s')", FactType::Time),
            'person' => new Fact('Who', "COALESCE(u.name, 'Harbor Post')"),
            'act' => new Fact('Act', 'h.action'),
            'first' => new Fact('First object', 'h.title'),
            'kind' => new Fact('Kind of object', 'h.object_type'),
            'rows' => new Fact('Rows', '(SELECT COUNT(*) FROM history x WHERE x.act_id = h.act_id)', FactType::Number),
            'reason' => new Fact('Reason', 'h.reason'),
            'via' => new Fact('By program', 'h.via'),
            'days' => new Fact('Days ago', 'TIMESTAMPDIFF(DAY, h.at, NOW())', FactType::Number),
        ];
    }

    /** @return non-empty-array<string, Fact> */
    private static function person(): array
    {
        return [
            'name' => new Fact('Person', 'u.name'),
            'sign-in' => new Fact('Sign-in', 'u.sign_in'),
            'roles' => new Fact('Roles', "REPLACE(REPLACE(REPLACE(REPLACE(u.roles, '\"', ''), '[', ''), ']', ''), ',', ', ')"),
            'tenant' => new Fact('Bound to', 't.name'),
            'active' => new Fact('May sign in', 'u.active', FactType::Flag),
            'tokens' => new Fact('Tokens', '(SELECT COUNT(*) FROM tokens x WHERE x.person_id = u.id)', FactType::Number),
            'names' => new Fact('Names granted', '(SELECT COUNT(*) FROM name_grants x WHERE x.person_id = u.id)', FactType::Number),
        ];
    }
}
