<?php

declare(strict_types=1);

namespace Database\Scenario;

use App\Acts\Name\AddRecord;
use App\Acts\Name\MakeZone;
use App\Acts\Plan\PlaceMany;
use App\Models\Host;
use App\Models\Prefix;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix as Net;

/** Zones, hosts with names, and the names that are wrong on purpose. */
final class Names
{
    /** purpose => [name, how many hosts on a quay, how many of them have a name] */
    private const HOSTS = [
        'Ticketing' => ['till', 70, 70], 'CCTV' => ['cam', 300, 170], 'Concessions' => ['kiosk', 60, 40], 'Gates' => ['gate', 30, 30],
        'Plant' => ['sensor', 80, 20], 'Management' => ['sw', 40, 40],
        'Servers' => ['srv', 420, 380], 'Storage' => ['san', 60, 60], 'Out-of-band' => ['oob', 240, 0],
        'Bridge systems' => ['bridge', 24, 24], 'Engine telemetry' => ['probe', 80, 20], 'Public' => ['pub', 20, 0],
        'Link' => ['', 2, 0],
    ];

    public function __construct(private readonly Kittiwake $k)
    {
    }

    public function load(): void
    {
        $this->zones();
        $this->hosts();
        $this->byHand();
    }

    private function zones(): void
    {
        $this->zone('kittiwake.example', 'shore', ['lamp1', 'lamp2']);
        $this->zone('kittiwake.example', 'aboard', ['lamp1', 'lamp2']);
        $this->zone('kittiwake.example', 'outside', ['lamp1', 'lamp2']);
        foreach (
            [
                'ops' => '', 'retail' => 'Kittiwake Retail', 'crew' => 'Wardroom Crew Services', 'gates' => 'Harbour Authority',
            ] as $label => $tenant
        ) {
            $this->zone("$label.kittiwake.example", 'shore', ['lamp1', 'lamp2'], $tenant);
        }
        foreach ([...Kittiwake::TERMINALS, ...Kittiwake::VESSELS] as [$label]) {
            $this->zone("$label.kittiwake.example", 'shore', ['lamp1', 'lamp2']);
        }
        foreach ([32, 33, 34, 35, 36, 37, 38, 40, 41, 42, 43, 44, 45, 47] as $octet) {
            $this->zone("$octet.10.in-addr.arpa", 'shore', ['lamp1', 'lamp2']);
        }
        foreach ([1, 2, 3, 4, 5, 6] as $index) {
            $this->zone(sprintf('2001:db8:4b%02x::/48', $index), 'shore', ['lamp1', 'lamp2']);
        }
        $this->zone('198.51.100.0/24', 'outside', ['lamp1', 'lamp2']);
        $this->zone('203.0.113.0/25', 'outside', ['lamp1', 'lamp2']);
    }

    /** @param  list<string>  $servers */
    private function zone(string $name, string $view, array $servers, string $tenant = ''): void
    {
        $this->k->do(new MakeZone(
            name: $name, view: $this->k->id("view $view"), id: $this->k->id("zone $name $view"),
            servers: array_map(fn (string $s): string => $this->k->id("server $s"), $servers),
            mailbox: 'hostmaster@kittiwake.example', tenant: $tenant === '' ? '' : $this->k->id("tenant $tenant"),
        ));
    }

    private function hosts(): void
    {
        mt_srand(20261123);
        $batch = [];
        foreach ($this->k->subnets as $subnet) {
            [$label, $count, $named] = self::HOSTS[$subnet['purpose']] ?? ['', 0, 0];
            $net = Net::parse($subnet['net']);
            if ($subnet['stage'] !== 'live' || $count === 0) {
                continue;
            }
            if ($net->family()->value === 6) {
                $count = min($count, 12);
                $named = $count;
            }
            $full = $subnet['site'] === 'Little Skarn' && $subnet['quay'] === 0 && $subnet['purpose'] === 'Gates';
            $site = Kittiwake::TERMINALS[$subnet['site']][0]
                ?? Kittiwake::VESSELS[$subnet['site']][0]
                ?? ($subnet['site'] === 'Data hall B' ? 'hallowmere' : 'orrin');
            $zone = $this->k->id('zone '.($subnet['purpose'] === 'Servers' ? 'ops' : $site).'.kittiwake.example shore');
            $batch = [...$batch, ...$this->inSubnet($subnet, $net, $label, $full ? 61 : $count, $named, $zone)];
        }
        foreach (array_chunk($batch, 2000) as $chunk) {
            $this->k->do(new PlaceMany($chunk));
        }
    }

    /**
     * @param  array{id: string, net: string, site: string, quay: int, purpose: string, stage: string}  $subnet
     * @return list<array{prefix: string, address: string, name?: string, zone?: string, reverse?: string, mac?: string}>
     */
    private function inSubnet(array $subnet, Net $net, string $label, int $count, int $named, string $zone): array
    {
        $rows = [];
        $at = $net->length >= 31 ? $net->first : Prefix::query()->findOrFail($subnet['id'])->gateway?->next();
        $skip = $count > 60 && $net->length < 25 ? 3 : 0;
        for ($i = 1; $i <= $count && $at !== null && $net->usable()->contains($at); $i++) {
            $row = [
                'prefix' => $subnet['id'],
                'address' => (string) $at,
                'mac' => sprintf('00:00:5e:00:%02x:%02x', mt_rand(0x54, 0xFE), mt_rand(0, 255)),
            ];
            if ($i <= $named && $label !== '') {
                $hall = str_starts_with($subnet['site'], 'Data hall') ? strtolower(substr($subnet['site'], -1)) : 'q'.($subnet['quay'] + 1);
                $row['name'] = $subnet['purpose'] === 'Servers' ? "$label$i.$hall" : "$label-$i.$hall";
                $row['zone'] = $zone;
                $row['reverse'] = $this->reverse($at);
            }
            $rows[] = $row;
            // A stretch is left open now and then, as it is where people have worked for years.
            $at = $at->plus($skip > 0 && $i % 37 === 0 ? 1 + mt_rand(1, 6) : 1);
        }

        return $rows;
    }

    private function reverse(Address $address): string
    {
        $name = $address->family->value === 4
            ? ord($address->bytes[1]).'.10.in-addr.arpa shore'
            : sprintf('2001:db8:4b%02x::/48 shore', ord($address->bytes[5]));

        return $this->k->ids["zone $name"] ?? '';
    }

    private function byHand(): void
    {
        $shore = $this->k->id('zone kittiwake.example shore');
        $aboard = $this->k->id('zone kittiwake.example aboard');
        $outside = $this->k->id('zone kittiwake.example outside');
        foreach ([$shore, $aboard, $outside] as $zone) {
            $this->k->do(
                new AddRecord($zone, 'MX', '10 mail', '', '@'),
                new AddRecord($zone, 'TXT', '"v=spf1 mx -all"', '', '@'),
                new AddRecord($zone, 'CAA', '0 issue "certs.example.net"', '', '@'),
                new AddRecord($zone, 'A', $zone === $outside ? '198.51.100.25' : '10.32.0.25', '', 'mail'),
                new AddRecord($zone, 'A', $zone === $outside ? '203.0.113.24' : '10.32.0.24', '', 'tickets', '300'),
                new AddRecord($zone, 'CNAME', 'tickets', '', 'booking'),
            );
        }
        $this->k->do(
            new AddRecord($shore, 'SRV', '10 60 5060 voice.hallowmere', '', '_sip._tcp'),
            new AddRecord($shore, 'A', '10.38.0.60', '', 'voice.hallowmere'),
        );
        foreach ([...Kittiwake::TERMINALS, ...Kittiwake::VESSELS] as [$label]) {
            $this->k->do(new AddRecord($shore, 'NS', 'lamp1', '', $label), new AddRecord($shore, 'NS', 'lamp2', '', $label));
        }
        foreach (['ops', 'retail', 'crew', 'gates'] as $label) {
            $this->k->do(new AddRecord($shore, 'NS', 'lamp1', '', $label), new AddRecord($shore, 'NS', 'lamp2', '', $label));
        }
        $gates = $this->k->id('zone gates.kittiwake.example shore');
        $this->k->do(
            new AddRecord($gates, 'A', '10.40.0.9', '', 'control'),
            new AddRecord($gates, 'TXT', '"quay gates, Harbour Authority"', '', '@'),
        );
        // Wrong on purpose: an alias that leads nowhere, and two names for one address with the PTR on the wrong one.
        $this->k->do(new AddRecord($shore, 'CNAME', 'old-timetable.ops', '', 'timetable'));
        $host = Host::query()->where('name', 'like', 'till-1.q1.tarbeck.%')->where('family', 4)->first();
        if ($host !== null) {
            $this->k->do(
                new AddRecord($this->k->id('zone tarbeck.kittiwake.example shore'), 'A', (string) $host->address, '', 'information-desk'),
            );
        }
        // A pointer that says a name which has another address, and one whose name is gone.
        $this->k->do(
            new AddRecord($this->k->id('zone tarbeck.kittiwake.example shore'), 'A', '10.36.8.200', '', 'lost-property'),
            new AddRecord($this->k->ids['zone 36.10.in-addr.arpa shore'] ?? '', 'PTR', 'till-1.q1.tarbeck.kittiwake.example.', '', '200.8'),
            new AddRecord($this->k->ids['zone 36.10.in-addr.arpa shore'] ?? '', 'PTR', 'old-kiosk.tarbeck.kittiwake.example.', '', '201.8'),
        );
    }
}
