<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Domain\Plan\Counter;
use App\Models\Host;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Record;
use App\Models\Zone;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\A;
use HarborPost\Core\Dns\Rdata\Aaaa;
use HarborPost\Core\Dns\Rdata\Ptr;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/** Many hosts at once, already judged one by one: written in bulk, with names both ways where zones are given. */
final readonly class PlaceMany extends Act
{
    /**
     * @param  list<array{prefix: string, address: string, name?: string, zone?: string, reverse?: string, mac?: string, owner?: string,
     *     description?: string, role?: string, interface?: string, device?: string}>  $hosts
     */
    public function __construct(public array $hosts)
    {
    }

    public function title(): string
    {
        return 'Place '.count($this->hosts).' hosts';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function apply(Ledger $ledger): void
    {
        $subnets = Prefix::query()->whereIn('id', array_unique(array_column($this->hosts, 'prefix')))->get()->keyBy('id');
        $zones = Zone::query()
            ->whereIn('id', array_filter(array_unique([...array_column($this->hosts, 'zone'), ...array_column($this->hosts, 'reverse')])))
            ->get()->keyBy('id');
        $rows = $records = $counts = [];
        foreach ($this->hosts as $one) {
            $subnet = $subnets[$one['prefix']] ?? $ledger->refuse('gone', 'A subnet of the selection is not there any more');
            $address = Address::parse($one['address']);
            $zone = $zones[$one['zone'] ?? ''] ?? null;
            $owner = $zone === null ? null : Name::parse($one['name'] ?? '', $zone->origin())->lower();
            $id = (string) Str::ulid();
            $rows[] = [
                'id' => $id, 'space_id' => $subnet->space_id, 'family' => $subnet->family, 'address' => $address->bytes,
                'prefix_id' => $subnet->id,
                'name' => $owner === null ? strtolower(rtrim($one['name'] ?? '', '.')) : rtrim((string) $owner, '.'),
                'role' => $one['role'] ?? 'host',
                'interface' => $one['interface'] ?? '',
                'mac' => ($one['mac'] ?? '') === '' ? null : MacAddress::parse($one['mac'])->bytes, 'owner' => $one['owner'] ?? '',
                'description' => $one['description'] ?? '', 'device_id' => ($one['device'] ?? '') === '' ? null : $one['device'],
                'version' => 1,
            ];
            $counts[$subnet->id] = ($counts[$subnet->id] ?? 0) + 1;
            if ($zone !== null && $owner !== null) {
                $records[] = ['zone_id' => $zone->id, 'address_id' => $id] + Record::columns(
                    $owner,
                    null,
                    $address->family === Family::V4 ? A::of($address) : Aaaa::of($address),
                );
                $reverse = $zones[$one['reverse'] ?? ''] ?? null;
                if ($reverse !== null) {
                    $records[] = ['zone_id' => $reverse->id, 'address_id' => $id] + Record::columns(
                        ReverseName::of($address),
                        null,
                        new Ptr($owner),
                    );
                }
            }
        }
        $ledger->bulk(Host::class, $rows);
        foreach ($counts as $prefix => $count) {
            Counter::add((string) $prefix, $count);
        }
        self::records($ledger, self::withoutThose($ledger, $records));
    }

    /**
     * Records that stand already in their zone, as for a host of the same name in another space, are not written twice.
     *
     * @param  list<array<string, mixed>>  $records
     * @return list<array<string, mixed>>
     */
    private static function withoutThose(Ledger $ledger, array $records): array
    {
        $there = [];
        foreach (array_chunk($records, 500) as $chunk) {
            foreach (
                Record::query()->whereIn('data_hash', array_column($chunk, 'data_hash'))
                    ->whereIn('zone_id', array_unique(array_column($chunk, 'zone_id')))->toBase()
                    ->get(['zone_id', 'owner', 'type', 'data_hash']) as $row
            ) {
                $there["$row->zone_id $row->owner $row->type ".bin2hex((string) $row->data_hash)] = true;
            }
        }
        $new = array_values(
            array_filter(
                $records,
                fn (array $r): bool => ! isset($there["{$r['zone_id']} {$r['owner']} {$r['type']} ".bin2hex((string) $r['data_hash'])]),
            ),
        );
        $left = count($records) - count($new);
        $left === 0
            || $ledger->warn(
                'records-there',
                "$left records stand in their zones already",
                'They stay as they are and belong to whoever has them.',
            );

        return $new;
    }

    /**
     * @param  list<array<string, mixed>>  $records  rows without id and version
     */
    public static function records(Ledger $ledger, array $records): void
    {
        $ledger->bulk(Record::class, array_map(fn (array $r): array => ['id' => (string) Str::ulid(), 'version' => 1] + $r, $records));
        foreach (array_chunk($records, 500) as $chunk) {
            DB::table('record_changes')->insert(
                array_map(
                    fn (array $r): array => [
                        'zone_id' => $r['zone_id'], 'op' => '+', 'owner' => $r['owner'], 'type' => $r['type'], 'ttl' => $r['ttl'],
                        'data' => $r['data'],
                    ],
                    $chunk,
                ),
            );
        }
    }
}
