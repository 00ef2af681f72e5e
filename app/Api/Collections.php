<?php

declare(strict_types=1);

namespace App\Api;

use App\Domain\Lease\Delegations;
use App\Domain\Lease\ScopeRanges;
use App\Models\ClientClass;
use App\Models\Device;
use App\Models\Host;
use App\Models\Layer2Domain;
use App\Models\Lease;
use App\Models\Model;
use App\Models\OptionDefinition;
use App\Models\Pair;
use App\Models\Prefix;
use App\Models\Record;
use App\Models\Reservation;
use App\Models\Scope;
use App\Models\ScopeServer;
use App\Models\Server;
use App\Models\Site;
use App\Models\Space;
use App\Models\Tenant;
use App\Models\VendorTemplate;
use App\Models\View;
use App\Models\Vlan;
use App\Models\Zone;
use App\Queries\FilterWords;
use App\Queries\Reach;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\Prefix as Net;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\Schema;

/** The lists that programs read: what each is called, what its objects hold, and by what it is filtered. */
final class Collections
{
    /** @var array<string, class-string<Model>> */
    public const OF = [
        'spaces' => Space::class, 'sites' => Site::class, 'tenants' => Tenant::class, 'devices' => Device::class,
        'layer-2-domains' => Layer2Domain::class, 'vlans' => Vlan::class, 'prefixes' => Prefix::class, 'addresses' => Host::class,
        'views' => View::class, 'zones' => Zone::class, 'records' => Record::class, 'servers' => Server::class, 'scopes' => Scope::class,
        'reservations' => Reservation::class, 'classes' => ClientClass::class, 'pairs' => Pair::class,
        'leases' => Lease::class, 'option-definitions' => OptionDefinition::class,
        'vendor-templates' => VendorTemplate::class,
    ];

    /** Filters that are columns as they stand: collection → parameters. */
    private const EXACT = [
        'sites' => ['parent_id'], 'vlans' => ['number', 'domain_id'],
        'prefixes' => ['space_id', 'kind', 'stage', 'site_id', 'vlan_id', 'family'],
        'addresses' => ['prefix_id', 'device_id'], 'zones' => ['view_id'], 'records' => ['zone_id'], 'servers' => ['kind'],
        'scopes' => ['prefix_id', 'stage', 'pair_id'], 'reservations' => ['scope_id'], 'leases' => ['scope_id', 'server_id', 'state'],
        'option-definitions' => ['family', 'code'], 'vendor-templates' => ['family', 'enterprise'],
    ];

    /** Columns that are written for the machinery, not for people or programs. */
    private const QUIET = [
        'structure',
        'owner_key',
        'data_hash',
        'target',
        'token',
        'secret',
        'password',
        'remember_token',
        'hash',
        'groups',
    ];

    /** @return list<string> parameters by which a list is filtered */
    public static function filters(string $collection): array
    {
        return ['name', ...self::EXACT[$collection] ?? [], ...match ($collection) {
            'prefixes' => ['within', 'holds'],
            'addresses' => ['within', 'mac'],
            'leases' => ['within', 'mac'],
            'reservations' => ['mac'],
            'records' => ['type'],
            default => [],
        }];
    }

    /** @return Builder<covariant Model>|null */
    public static function query(string $collection, Reach $reach): ?Builder
    {
        $class = self::OF[$collection] ?? null;

        return match (true) {
            $class === null => null,
            $class === Lease::class => Lease::query()->when(
                ! $reach->isWhole(),
                fn ($q) => $q->whereIn('leases.scope_id', $reach->scopes()->select('scopes.id')),
            ),
            $class === Record::class, $class === Host::class => $reach->ofNoun($class::noun()),
            default => $reach->ofNoun($class::noun()),
        };
    }

    /**
     * @param  Builder<covariant Model>  $query
     * @param  array<string, string>  $asked
     */
    public static function filter(string $collection, Builder $query, array $asked): void
    {
        $table = $query->getModel()->getTable();
        foreach ($asked as $name => $value) {
            if (! in_array($name, self::filters($collection), true)) {
                throw Problem::of(
                    400,
                    'unknown-parameter',
                    "\"$name\" filters no $collection; there are ".implode(', ', self::filters($collection)).'.',
                );
            }
            match ($name) {
                'name' => self::byName($collection, $query, $value),
                'within' => self::within($collection, $query, $value),
                'holds' => self::holds($query, $value),
                'mac' => $query->where(
                    "$table.mac",
                    (MacAddress::tryParse($value) ?? throw self::bad($name, $value, 'a MAC address'))->bytes,
                ),
                'type' => $query->where("$table.type", self::type($value)),
                default => $query->where("$table.$name", $value),
            };
        }
    }

    /** @param  Builder<covariant Model>  $query */
    private static function byName(string $collection, Builder $query, string $value): void
    {
        $column = ['records' => 'owner', 'leases' => 'host_name'][$collection] ?? 'name';
        $query->where($query->getModel()->getTable().".$column", 'like', FilterWords::start(strtolower($value)));
    }

    /** @param  Builder<covariant Model>  $query */
    private static function within(string $collection, Builder $query, string $value): void
    {
        $net = Net::tryParse($value) ?? throw self::bad('within', $value, 'a prefix');
        if ($collection === 'prefixes') {
            $query->where('prefixes.family', $net->first->family->value)
                ->whereBetween('prefixes.first', [$net->first->bytes, $net->last()->bytes])
                ->where('prefixes.length', '>=', $net->length);

            return;
        }
        $column = $query->getModel()->getTable().'.address';
        $query->whereBetween($column, [$net->first->bytes, $net->last()->bytes])
            ->whereRaw("LENGTH($column) = ?", [strlen($net->first->bytes)]);
    }

    /** @param  Builder<covariant Model>  $query */
    private static function holds(Builder $query, string $value): void
    {
        $address = Address::tryParse($value) ?? throw self::bad('holds', $value, 'an address');
        $pairs = $bound = [];
        for ($length = 0; $length <= $address->family->bits(); $length++) {
            $pairs[] = '(?,?)';
            array_push($bound, $length, $address->in($length)->first->bytes);
        }
        $query->where('prefixes.family', $address->family->value)
            ->whereRaw('(prefixes.length, prefixes.first) IN ('.implode(',', $pairs).')', $bound);
    }

    private static function type(string $value): int
    {
        try {
            return RecordType::parse($value)->number;
        } catch (Malformed) {
            throw self::bad('type', $value, 'a type of records');
        }
    }

    private static function bad(string $name, string $value, string $expected): Problem
    {
        return Problem::of(400, 'bad-parameter', "$name: \"".mb_strimwidth($value, 0, 60, '…')."\" is not $expected.");
    }

    /**
     * An object as programs see it: its columns as text and numbers, and what people call it.
     *
     * @param  list<string>  $only  fields that are asked for; all when none is named
     * @return array<string, mixed>
     */
    public static function object(string $collection, Model $row, array $only = []): array
    {
        $fields = ['id' => $row->getKey(), 'line' => $row->line()] + self::own($row)
            + array_diff_key($row->readable($row->getAttributes()), array_flip(self::QUIET));
        foreach ($row->getCasts() as $column => $cast) {
            if (array_key_exists($column, $fields) && in_array($cast, ['array', 'boolean'], true)) {
                $fields[$column] = $row->getAttribute($column);
            }
        }
        if ($row->versioned()) {
            $fields['version'] = (int) $row->version;
        }
        ksort($fields);

        return $only === [] ? $fields : array_intersect_key($fields, array_flip($only));
    }

    /**
     * What objects of a list have, from their table.
     *
     * @return array<string, string> field → integer, boolean, list or text
     */
    public static function kinds(string $collection): array
    {
        $class = self::OF[$collection];
        $row = new $class;
        $kinds = ['line' => 'text'] + match ($class) {
            Prefix::class => ['prefix' => 'text'], Zone::class => ['title' => 'text'], Record::class => ['type' => 'text'],
            Reservation::class => ['client' => 'text', 'given' => 'text'],
            Lease::class => ['now' => 'text', 'client' => 'text', 'given' => 'text'],
            Scope::class => ['ranges' => 'list', 'delegations' => 'list', 'servers' => 'list'],
            default => [],
        };
        foreach (Schema::getColumns($row->getTable()) as $column) {
            $name = (string) $column['name'];
            $cast = $row->getCasts()[$name] ?? '';
            $kinds[$name] ??= match (true) {
                $cast === 'boolean' => 'boolean',
                $cast === 'array' => 'list',
                $cast === '' && str_contains((string) $column['type_name'], 'int') => 'integer',
                default => 'text',
            };
        }

        $told = array_diff_key($kinds, array_flip([...self::QUIET, ...$class::secret(), ...$class::quiet(), 'id']));

        return $row->versioned() ? $told + ['version' => 'integer'] : $told;
    }

    /** @return array<string, mixed> what its columns do not say by themselves */
    private static function own(Model $row): array
    {
        return match (true) {
            $row instanceof Prefix => ['prefix' => (string) $row->prefix()],
            $row instanceof Zone => ['title' => $row->title()],
            $row instanceof Record => ['type' => (string) RecordType::of($row->type)],
            $row instanceof Reservation => ['client' => $row->client(), 'given' => $row->given()],
            $row instanceof Lease => ['now' => $row->stateWords(), 'client' => $row->client(), 'given' => $row->given()],
            $row instanceof Scope => [
                'ranges' => ScopeRanges::texts($row), 'delegations' => Delegations::texts($row),
                'servers' => array_values($row->placements->map(fn (ScopeServer $p): string => $p->server->name)->sort()->all()),
            ],
            default => [],
        };
    }

    /** @return list<string> */
    public static function with(string $collection): array
    {
        return match ($collection) {
            'scopes' => ['prefix', 'ranges', 'delegations', 'placements.server'],
            'vlans' => ['domain'],
            'reservations' => ['scope'],
            default => [],
        };
    }
}
