<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models;
use App\Models\Model;
use App\Models\OptionValue;
use HarborPost\Core\Dns\Ttl;

/** Ids in a change, by the names that people know: what would be written, and what history tells, is read without a raw id. */
final class Called
{
    /** @var array<string, class-string<Model>> */
    private const COLUMNS = [
        'site_id' => Models\Site::class, 'parent_id' => Models\Prefix::class, 'tenant_id' => Models\Tenant::class,
        'vlan_id' => Models\Vlan::class,
        'space_id' => Models\Space::class, 'prefix_id' => Models\Prefix::class, 'device_id' => Models\Device::class,
        'domain_id' => Models\Layer2Domain::class,
        'view_id' => Models\View::class, 'zone_id' => Models\Zone::class, 'server_id' => Models\Server::class,
        'scope_id' => Models\Scope::class,
        'address_id' => Models\Host::class, 'person_id' => Models\Person::class,
        'effective_tenant_id' => Models\Tenant::class, 'author_id' => Models\Person::class, 'keeper_id' => Models\Person::class,
        'team_id' => Models\Team::class, 'class_id' => Models\ClientClass::class, 'policy_id' => Models\SigningPolicy::class,
        'pair_id' => Models\Pair::class, 'first_id' => Models\Server::class, 'second_id' => Models\Server::class,
        'off_id' => Models\Server::class, 'key_id' => Models\TransferKey::class, 'name_key_id' => Models\TransferKey::class,
        'name_zone_id' => Models\Zone::class, 'under_id' => Models\Prefix::class,
        'template_id' => Models\Template::class,
        'native_vlan_id' => Models\Vlan::class, 'voice_vlan_id' => Models\Vlan::class, 'to_vlan_id' => Models\Vlan::class,
    ];

    /** What options stand at, but for the organisation. */
    private const OPTIONS_OF = [
        Models\Scope::class, Models\Site::class, Models\Server::class, Models\ClientClass::class, Models\Reservation::class,
    ];

    /** Columns that count seconds. */
    private const SECONDS = ['lease_time', 'preferred_time', 'ttl', 'default_ttl', 'refresh', 'retry', 'expire', 'minimum'];

    /** @var array<string, string> id → name */
    private array $names;

    /**
     * @param  iterable<array<string, mixed>>  $changes  columns → values
     * @param  array<string, string>  $known  id → name of objects that the same act makes
     * @param  iterable<object{noun: string, within: ?string}>  $written  rows of which home() is asked
     */
    public function __construct(iterable $changes, array $known = [], iterable $written = [])
    {
        $wanted = [];
        foreach ($changes as $change) {
            foreach (array_intersect_key($change, self::COLUMNS) as $column => $id) {
                if (is_string($id) && $id !== '' && ! isset($known[$id])) {
                    $wanted[self::COLUMNS[$column]][$id] = true;
                }
            }
        }
        $this->names = $known;
        $homes = collect($written)->where('noun', OptionValue::noun())->pluck('within')->filter()->unique();
        foreach ($homes->isEmpty() ? [] : self::OPTIONS_OF as $class) {
            $wanted[$class] = ($wanted[$class] ?? []) + $homes->diff(array_keys($known))->mapWithKeys(fn ($id) => [$id => true])->all();
        }
        foreach ($wanted as $class => $ids) {
            foreach (array_chunk(array_keys($ids), 1000) as $chunk) {
                foreach ($class::query()->whereKey(array_map(strval(...), $chunk))->get() as $row) {
                    $this->names[$row->id] = $row->line();
                }
            }
        }
    }

    public function column(string $column): string
    {
        return str_replace('_', ' ', (string) preg_replace('/_id\z/', '', $column));
    }

    /** Where a row stands whose line does not say it: an option's; blank for other rows. */
    public function home(string $noun, ?string $within): string
    {
        return match (true) {
            $noun !== OptionValue::noun() => '',
            $within === null => 'the organisation',
            default => $this->names[$within] ?? 'one that is gone',
        };
    }

    public function value(string $column, mixed $value): string
    {
        return match (true) {
            $value === null || $value === '' => 'none',
            is_bool($value) => $value ? 'yes' : 'no',
            isset(self::COLUMNS[$column]) && is_string($value) => $this->names[$value] ?? 'one that is gone',
            in_array($column, self::SECONDS, true)
                && is_numeric($value)
                && $value >= 60
                && $value <= 0x7FFFFFFF => Ttl::of((int) $value)->spoken(),
            is_scalar($value) => mb_strimwidth((string) $value, 0, 120, '…'),
            default => mb_strimwidth(
                (string) json_encode($value, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE),
                0,
                120,
                '…',
            ),
        };
    }
}
