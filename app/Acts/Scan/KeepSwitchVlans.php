<?php

declare(strict_types=1);

namespace App\Acts\Scan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Models\Layer2Domain;
use App\Models\Person;
use App\Models\SwitchPort;
use App\Models\SwitchVlan;
use HarborPost\Core\Net\Address;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/** What the switches say of their VLANs is written down; a VLAN that they no longer have goes. */
final readonly class KeepSwitchVlans extends Act
{
    /**
     * @param  list<array{domain: string, number: int, name: string, gateway: string, relays: list<string>, ports?: ?int,
     *     denies?: ?list<string>,
     *     advertises?: ?array{managed: bool, other: bool, autonomous: bool}}>  $vlans
     * @param  ?list<array{domain: string, device: string, port: string, native: ?int, voice: ?int, lldp: bool, poe: bool,
     *     priority: int}>  $ports  null: they were not asked for
     */
    public function __construct(public array $vlans, public ?array $ports = null)
    {
    }

    public function title(): string
    {
        return 'Read '.count($this->vlans).' VLANs from switches';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('directory.list', 'vlans');
    }

    public function apply(Ledger $ledger): void
    {
        $domains = Layer2Domain::query()->pluck('id', 'name');
        $rows = $unknown = [];
        $now = $ledger->at->format('Y-m-d H:i:s');
        foreach ($this->vlans as $vlan) {
            $domain = $domains[$vlan['domain']] ?? null;
            if ($domain === null) {
                $unknown[$vlan['domain']] = true;

                continue;
            }
            $rows[] = [
                'id' => (string) Str::ulid(),
                'domain_id' => $domain,
                'number' => $vlan['number'],
                'name' => $vlan['name'],
                'gateway' => Address::tryParse($vlan['gateway'])?->bytes,
                'relays' => json_encode($vlan['relays'], JSON_THROW_ON_ERROR),
                'ports' => $vlan['ports'] ?? null,
                'denies' => isset($vlan['denies']) ? json_encode($vlan['denies'], JSON_THROW_ON_ERROR) : null,
                'advertises' => isset($vlan['advertises']) ? json_encode($vlan['advertises'], JSON_THROW_ON_ERROR) : null,
                'read_at' => $now,
            ];
        }
        foreach (array_chunk($rows, 500) as $chunk) {
            DB::table('switch_vlans')->upsert(
                $chunk,
                ['domain_id', 'number'],
                ['name', 'gateway', 'relays', 'ports', 'denies', 'advertises', 'read_at'],
            );
        }
        SwitchVlan::query()->where('read_at', '<', $now)->delete();
        $unknown += $this->ports === null ? [] : $this->keepPorts($domains->all(), $now);
        $unknown === []
            || $ledger->warn(
                'unknown-domain',
                'Not matched: '.implode(', ', array_keys($unknown)),
                'The switches name layer-2 domains that the directory does not have.',
            );
        $ledger->made['vlans'] = count($rows);
    }

    /**
     * @param  array<string, string>  $domains  name → id
     * @return array<string, true> domains that the directory does not have
     */
    private function keepPorts(array $domains, string $now): array
    {
        $rows = $unknown = [];
        foreach ($this->ports ?? [] as $port) {
            $domain = $domains[$port['domain']] ?? null;
            if ($domain === null) {
                $unknown[$port['domain']] = true;
            } else {
                $rows[] = ['domain_id' => $domain, 'read_at' => $now] + array_diff_key($port, ['domain' => true]);
            }
        }
        foreach (array_chunk($rows, 500) as $chunk) {
            DB::table('switch_ports')->upsert(
                $chunk,
                ['domain_id', 'device', 'port'],
                ['native', 'voice', 'lldp', 'poe', 'priority', 'read_at'],
            );
        }
        SwitchPort::query()->where('read_at', '<', $now)->delete();

        return $unknown;
    }
}
