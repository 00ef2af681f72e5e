<?php

declare(strict_types=1);

namespace Database\Scenario;

use App\Acts\Directory\MakeDevice;
use App\Acts\Directory\MakeDomain;
use App\Acts\Directory\MakePerson;
use App\Acts\Directory\MakeServer;
use App\Acts\Directory\MakeSite;
use App\Acts\Directory\MakeSpace;
use App\Acts\Directory\MakeTenant;
use App\Acts\Directory\MakeView;
use App\Acts\Directory\MakeVlan;
use App\Acts\Engine\Act;
use App\Acts\Engine\Acts;
use App\Acts\Plan\CarvePrefix;
use App\Models\Prefix;
use App\Models\Server;
use Illuminate\Support\Str;

/**
 * Kittiwake Ferries, a made-up operator: directory and address plan. Names and leases are in the files beside.
 *
 * Everything is written by the same Actions as on screen, so the scenario also shows that they hold.
 */
final class Kittiwake
{
    public const PASSWORD = 'harbour-demo';

    /** @var array<string, string> "kind name" → id */
    public array $ids = [];

    /** Subnets with what the other files need to know: site, quay, purpose.
     * @var list<array{id: string, net: string, site: string, quay: int, purpose: string, stage: string}> */
    public array $subnets = [];

    /** site => [zone label, prefix, quays, stage, IPv6 /48 index] */
    public const TERMINALS = [
        'Orrin Pier' => ['orrin', '10.32.0.0/14', 4, 'live', 1],
        'Tarbeck' => ['tarbeck', '10.36.0.0/15', 3, 'live', 2],
        'Hallowmere' => ['hallowmere', '10.38.0.0/17', 2, 'live', 3],
        'Little Skarn' => ['skarn', '10.40.0.0/16', 2, 'live', 4],
        'Port Wenna' => ['wenna', '10.42.0.0/15', 2, 'planned', 5],
        'Ebb Cove' => ['ebb', '10.44.0.0/16', 1, 'live', 6],
    ];

    public const VESSELS = [
        'MV Dunlin' => ['dunlin', '10.45.0.0/20'],
        'MV Turnstone' => ['turnstone', '10.45.16.0/20'],
        'MV Sanderling' => ['sanderling', '10.45.32.0/20'],
    ];

    /** purpose => [length, VLAN number, VLAN name, tenant] */
    private const PURPOSES = [
        'Deck Wi-Fi' => [21, 130, 'DECK-WIFI', ''], 'Ticketing' => [22, 110, 'TICKETING', ''], 'CCTV' => [22, 120, 'CCTV', ''],
        'Voice' => [22, 140, 'VOICE', ''],
        'Concessions' => [23, 160, 'CONCESSIONS', 'Kittiwake Retail'], 'Gates' => [24, 150, 'GATES', 'Harbour Authority'],
        'Plant' => [24, 170, 'PLANT', ''], 'Management' => [25, 190, 'MGMT', ''],
    ];

    public function __construct(private readonly Acts $acts)
    {
    }

    public function load(): void
    {
        $this->people();
        $this->sites();
        $this->servers();
        $this->spaces();
        foreach (self::TERMINALS as $site => [, $prefix, $quays, $stage, $v6]) {
            $this->terminal($site, $prefix, $quays, $stage, $v6);
        }
        $this->hallsAndLinks();
        $this->vessels();
        $this->aside();
        $planning = new Planning($this);
        $planning->settings();
        (new Names($this))->load();
        (new Service($this))->plan();
        (new Partner($this))->plan();
        (new Copied($this))->plan();
        (new Leases($this->acts, $this))->load();
        $planning->crowd();
        $planning->samples();
        $planning->network($this->acts);
        (new Agreements($this->acts, $this))->load();
        (new Controllers($this->acts, $this))->load();
        (new Watching($this->acts, $this))->load();
        (new Texts($this->acts, $this))->load();
        (new SignIns($this))->load();
    }

    public function do(Act ...$acts): void
    {
        $outcome = $this->acts->commit(null, array_values($acts));
        if ($outcome->blocked()) {
            throw new \RuntimeException(
                'The scenario does not load: '.($outcome->block()->message ?? $outcome->trouble).' ('.$outcome->block()?->why.')',
            );
        }
    }

    public function id(string $what): string
    {
        return $this->ids[$what] ??= (string) Str::ulid();
    }

    private function people(): void
    {
        foreach (['Kittiwake Operations', 'Kittiwake Retail', 'Harbour Authority', 'Wardroom Crew Services'] as $tenant) {
            $this->do(new MakeTenant($tenant, $this->id("tenant $tenant")));
        }
        $people = [
            ['maren', 'Maren Tolk', ['planner', 'operator']], ['ilke', 'Ilke Brandt', ['operator']],
            ['tobin', 'Tobin Ashe', ['approver']], ['quill', 'Quill Harrow', ['tenant-admin']], ['wick', 'Wick Soames', ['reader']],
            ['sable', 'Sable Venn', ['steward']],
        ];
        foreach ($people as [$signIn, $name, $roles]) {
            $this->do(
                new MakePerson(
                    $signIn,
                    $name,
                    self::PASSWORD,
                    $roles,
                    $this->id("person $signIn"),
                    $signIn === 'quill' ? $this->id('tenant Harbour Authority') : '',
                ),
            );
        }
    }

    private function sites(): void
    {
        foreach (
            [
                'North Sound' => '', 'Outer Isles' => '', 'At sea' => '', 'Orrin Pier' => 'North Sound', 'Tarbeck' => 'North Sound',
                'Hallowmere' => 'North Sound', 'Little Skarn' => 'Outer Isles', 'Port Wenna' => 'Outer Isles',
                'Ebb Cove' => 'Outer Isles', 'MV Dunlin' => 'At sea', 'MV Turnstone' => 'At sea', 'MV Sanderling' => 'At sea',
                'Data hall A' => 'Orrin Pier', 'Data hall B' => 'Hallowmere',
            ] as $site => $parent
        ) {
            $this->do(new MakeSite($site, $this->id("site $site"), $parent === '' ? '' : $this->id("site $parent")));
        }
        foreach ([...array_keys(self::TERMINALS), ...array_keys(self::VESSELS)] as $site) {
            $this->do(new MakeDomain($site, $this->id("domain $site"), $this->id("site $site")));
        }
        foreach (array_keys(self::TERMINALS) as $site) {
            foreach (self::PURPOSES as [, $number, $name]) {
                foreach (range(0, self::TERMINALS[$site][2] - 1) as $quay) {
                    $this->do(
                        new MakeVlan(
                            $this->id("domain $site"),
                            $number + $quay,
                            $name.($quay === 0 ? '' : '-Q'.($quay + 1)),
                            $this->id("vlan $site ".($number + $quay)),
                        ),
                    );
                }
            }
        }
        foreach (array_keys(self::VESSELS) as $site) {
            foreach ([210 => 'BRIDGE', 220 => 'PAX-WIFI', 230 => 'ENGINE'] as $number => $name) {
                $this->do(new MakeVlan($this->id("domain $site"), $number, $name, $this->id("vlan $site $number")));
            }
        }
        // Wrong on purpose: the same number and name on the trunk between two quays, in a domain that is no site's own.
        $this->do(
            new MakeDomain('Tarbeck, quay trunk', $this->id('domain trunk')),
            new MakeVlan($this->id('domain trunk'), 110, 'TICKETING', $this->id('vlan trunk 110'), 'also at Tarbeck'),
        );
        foreach (['core-a1' => 'Data hall A', 'core-b1' => 'Data hall B', 'edge-orrin' => 'Orrin Pier'] as $device => $site) {
            $this->do(new MakeDevice($device, $this->id("device $device"), 'router', $this->id("site $site")));
        }
    }

    private function servers(): void
    {
        $settings = json_decode((string) @file_get_contents((string) config('harbor.standins')), true);
        foreach (
            [
                'lamp1' => ['dns', '10.32.0.53', 'Data hall A'], 'lamp2' => ['dns', '10.38.0.53', 'Data hall B'],
                'lamp3' => ['resolver', '10.32.0.54', 'Orrin Pier'], 'mole1' => ['resolver', '198.51.100.54', 'Orrin Pier'],
                'root1' => ['roots', '192.0.2.4', null], 'tide1' => ['dhcp', '10.32.0.67', 'Data hall A'],
                'tide2' => ['dhcp', '10.38.0.67', 'Data hall B'], 'tide3' => ['dhcp', '10.36.0.67', 'Orrin Pier'],
                'keel1' => ['network', '10.32.0.9', 'Data hall A'],
            ] as $name => [$kind, $address, $site]
        ) {
            $own = is_array($settings) ? ($settings[$name] ?? []) : [];
            $this->do(
                new MakeServer(
                    $name,
                    $kind,
                    '127.0.0.1:'.($own['port'] ?? 9),
                    $this->id("server $name"),
                    '127.0.0.1:'.($own['control'] ?? 9),
                    (string) ($own['token'] ?? ''),
                    $address,
                    $site === null ? '' : $this->id("site $site"),
                    in_array($kind, ['dns', 'resolver', 'dhcp'], true) ? Server::AT_CONTROL : '',
                ),
            );
        }
        $this->do(
            new MakeView(
                'shore',
                $this->id('view shore'),
                ['10.32.0.0/13', '10.40.0.0/14', '10.44.0.0/16', '2001:db8:4b00::/40', '127.0.0.0/8'],
            ),
            new MakeView('aboard', $this->id('view aboard'), ['10.45.0.0/16']),
            new MakeView('outside', $this->id('view outside'), ['0.0.0.0/0', '::/0']),
        );
    }

    private function spaces(): void
    {
        $this->do(
            new MakeSpace('Core', $this->id('space Core'), '64512:1', 'what Kittiwake runs'),
            new MakeSpace('Guest', $this->id('space Guest'), '64512:40', 'guest networks on the quays; overlaps Core on purpose'),
        );
        $this->carve(
            '10.32.0.0/12',
            'Kittiwake Ferries',
            'supernet',
            ['tenant' => 'Kittiwake Operations', 'origin' => 'private use, RFC 1918'],
        );
        $this->carve(
            '2001:db8:4b00::/40',
            'Kittiwake Ferries',
            'supernet',
            ['tenant' => 'Kittiwake Operations', 'origin' => 'Sound Registry', 'on' => '2020-06-11', 'handle' => 'KTWK-6'],
        );
        $this->carve(
            '198.51.100.0/24',
            'Public services',
            'supernet',
            ['tenant' => 'Kittiwake Operations', 'origin' => 'Sound Registry', 'on' => '2019-04-02', 'handle' => 'KTWK-1'],
        );
        $this->carve(
            '203.0.113.0/25',
            'Booking, outside',
            'supernet',
            ['tenant' => 'Kittiwake Operations', 'origin' => 'Sound Registry', 'on' => '2021-11-15', 'handle' => 'KTWK-2'],
        );
        $this->carve('10.40.0.0/16', 'Guest quays', 'supernet', ['space' => 'Guest']);
        foreach (
            [
                '10.40.0.0/22' => 'Guest Wi-Fi, Little Skarn',
                '10.40.4.0/22' => 'Guest Wi-Fi, Ebb Cove',
                '10.40.8.0/22' => 'Guest Wi-Fi, Tarbeck',
            ] as $net => $name
        ) {
            $this->carve($net, $name, 'subnet', ['space' => 'Guest', 'stage' => 'live', 'gateway' => true]);
        }
    }

    private function terminal(string $site, string $prefix, int $quays, string $stage, int $v6): void
    {
        $top = $this->carve($prefix, $site, 'supernet', ['site' => $site, 'stage' => $stage]);
        $top6 = $this->carve(sprintf('2001:db8:4b%02x::/48', $v6), $site, 'supernet', ['site' => $site, 'stage' => $stage]);
        $length = (int) explode('/', $prefix)[1] + match (true) {
            $quays > 2 => 2,
            $quays > 1 => 1,
            default => 0,
        };
        foreach (range(0, $quays - 1) as $quay) {
            $holder = $quays === 1
                ? $top
                : $this->carve(
                    '',
                    "$site, quay ".($quay + 1),
                    'supernet',
                    [
                        'site' => $site, 'stage' => $stage, 'in' => $top, 'length' => max($length, $site === 'Hallowmere' ? 19 : 18),
                        'fit' => 'first',
                    ],
                );
            $holder6 = $this->carve(
                '',
                $quays === 1 ? "$site, quay" : "$site, quay ".($quay + 1),
                'supernet',
                ['site' => $site, 'stage' => $stage, 'in' => $top6, 'length' => 56, 'fit' => 'first'],
            );
            foreach (self::PURPOSES as $purpose => [$size, $number, , $tenant]) {
                $full = $site === 'Little Skarn' && $quay === 0 && $purpose === 'Gates';
                $id = $this->carve(
                    '',
                    $purpose.($quays > 1 ? ', quay '.($quay + 1) : ''),
                    'subnet',
                    [
                        'site' => $site,
                        'stage' => $site === 'Tarbeck' && $quay === 2 && $purpose === 'CCTV' ? 'retiring' : $stage,
                        'in' => $holder,
                        'length' => $full ? 26 : $size,
                        'fit' => 'best',
                        'vlan' => "$site ".($number + $quay),
                        'tenant' => $tenant,
                        'role' => strtolower($purpose),
                        'gateway' => true,
                    ],
                );
                $this->note($id, $site, $quay, $purpose, $stage);
                if ($stage === 'live' && in_array($purpose, ['Ticketing', 'CCTV', 'Deck Wi-Fi', 'Voice'], true)) {
                    $six = $this->carve(
                        '',
                        $purpose.($quays > 1 ? ', quay '.($quay + 1) : ''),
                        'subnet',
                        [
                            'site' => $site, 'stage' => $stage, 'in' => $holder6, 'length' => 64, 'fit' => 'first',
                            'vlan' => "$site ".($number + $quay), 'gateway' => true,
                        ],
                    );
                    $this->note($six, $site, $quay, $purpose, $stage);
                }
            }
        }
    }

    private function hallsAndLinks(): void
    {
        $orrin = $this->ids['net Orrin Pier 10.32.0.0/14'];
        $hallowmere = $this->ids['net Hallowmere 10.38.0.0/17'];
        foreach ([['Data hall A', $orrin, 20], ['Data hall B', $hallowmere, 20]] as [$hall, $in, $length]) {
            $holder = $this->carve('', $hall, 'supernet', ['site' => $hall, 'in' => $in, 'length' => $length, 'fit' => 'best']);
            foreach (['Servers' => 22, 'Storage' => 23, 'Out-of-band' => 23] as $purpose => $size) {
                $this->note(
                    $this->carve(
                        '',
                        "$purpose, $hall",
                        'subnet',
                        [
                            'site' => $hall, 'stage' => 'live', 'in' => $holder, 'length' => $size, 'gateway' => true,
                            'role' => strtolower($purpose),
                        ],
                    ),
                    $hall,
                    0,
                    $purpose,
                    'live',
                );
            }
        }
        $links = $this->carve('10.47.255.0/24', 'Point-to-point links', 'supernet', ['site' => 'Orrin Pier']);
        $links6 = $this->carve('2001:db8:4bff::/48', 'Point-to-point links', 'supernet', ['site' => 'Orrin Pier']);
        $sites = array_keys(self::TERMINALS);
        foreach (range(0, 14) as $i) {
            $name = $sites[$i % 6].' to '.$sites[($i + 1 + intdiv($i, 6)) % 6];
            $this->note(
                $this->carve('', $name, 'subnet', ['stage' => 'live', 'in' => $links, 'length' => 31, 'fit' => 'first', 'role' => 'link']),
                'links',
                $i,
                'Link',
                'live',
            );
            $this->carve('', $name, 'subnet', ['stage' => 'live', 'in' => $links6, 'length' => 127, 'fit' => 'first', 'role' => 'link']);
        }
    }

    private function vessels(): void
    {
        $this->carve('10.45.0.0/16', 'Fleet', 'supernet', ['site' => 'At sea']);
        $this->carve('2001:db8:4bc8::/48', 'Moored vessels', 'pool', ['site' => 'Orrin Pier']);
        foreach (self::VESSELS as $vessel => [, $prefix]) {
            $holder = $this->carve($prefix, $vessel, 'supernet', ['site' => $vessel]);
            $this->carve(
                sprintf('2001:db8:4bc%x::/48', (int) array_search($vessel, array_keys(self::VESSELS), true)),
                $vessel,
                'supernet',
                ['site' => $vessel],
            );
            foreach (
                ['Passenger Wi-Fi' => [22, 220], 'Bridge systems' => [26, 210], 'Engine telemetry' => [25, 230]] as $purpose => [
                    $size,
                    $number,
                ]
            ) {
                $tenant = $purpose === 'Passenger Wi-Fi' ? 'Wardroom Crew Services' : '';
                $this->note(
                    $this->carve(
                        '',
                        $purpose,
                        'subnet',
                        [
                            'site' => $vessel, 'stage' => 'live', 'in' => $holder, 'length' => $size, 'vlan' => "$vessel $number",
                            'gateway' => true, 'tenant' => $tenant,
                        ],
                    ),
                    $vessel,
                    0,
                    $purpose,
                    'live',
                );
            }
        }
    }

    /** What is withheld, retiring, public or full. */
    private function aside(): void
    {
        $this->carve('10.39.0.0/16', 'Withheld for the harbour office', 'pool', ['stage' => 'withheld']);
        $this->carve('10.41.0.0/16', 'Tarbeck East', 'supernet', ['site' => 'Tarbeck', 'stage' => 'retiring']);
        $this->carve('10.41.0.0/22', 'CCTV, first cameras', 'subnet', ['site' => 'Tarbeck', 'stage' => 'retiring', 'gateway' => true]);
        $this->carve('10.41.64.0/20', 'Old depot', 'subnet', ['site' => 'Tarbeck', 'stage' => 'retiring', 'gateway' => true]);
        $this->note(
            $this->carve('198.51.100.0/26', 'Public services', 'subnet', ['stage' => 'live', 'gateway' => true]),
            'public',
            0,
            'Public',
            'live',
        );
        $this->carve('198.51.100.128/27', 'Translation pool', 'pool', ['stage' => 'live']);
        // Wrong on purpose: a top holding without headroom.
        $this->carve('203.0.113.0/26', 'Booking front', 'subnet', ['stage' => 'live', 'gateway' => true]);
        $this->carve('203.0.113.64/26', 'Booking back', 'subnet', ['stage' => 'live', 'gateway' => true]);
    }

    private function note(string $id, string $site, int $quay, string $purpose, string $stage): void
    {
        $this->subnets[] = [
            'id' => $id, 'net' => (string) Prefix::query()->findOrFail($id)->prefix(), 'site' => $site, 'quay' => $quay,
            'purpose' => $purpose, 'stage' => $stage,
        ];
    }

    /** @param  array<string, mixed>  $more */
    private function carve(string $net, string $name, string $kind, array $more = []): string
    {
        $id = (string) Str::ulid();
        $this->ids["net $name $net"] = $id;
        $this->do(new CarvePrefix(
            space: $this->id('space '.($more['space'] ?? 'Core')), id: $id, prefix: $net, in: (string) ($more['in'] ?? ''),
            length: $more['length'] ?? null, fit: (string) ($more['fit'] ?? 'best'), kind: $kind,
            stage: (string) ($more['stage'] ?? 'live'), name: $name,
            site: isset($more['site']) ? $this->id("site {$more['site']}") : '',
            tenant: ($more['tenant'] ?? '') === '' ? '' : $this->id("tenant {$more['tenant']}"),
            vlan: isset($more['vlan']) ? $this->id("vlan {$more['vlan']}") : '', role: (string) ($more['role'] ?? ''),
            origin: (string) ($more['origin'] ?? ''), originOn: (string) ($more['on'] ?? ''),
            originHandle: (string) ($more['handle'] ?? ''),
        ));
        if (($more['gateway'] ?? false) === true) {
            $row = Prefix::query()->findOrFail($id);
            $this->do(new \App\Acts\Plan\ChangePrefix([$id], gateway: (string) $row->prefix()->usable()->first));
        }

        return $id;
    }
}
