<?php

declare(strict_types=1);

namespace Database\Scenario;

use App\Acts\Directory\GiveProfile;
use App\Acts\Directory\KeepIntent;
use App\Acts\Directory\KeepProfile;
use App\Acts\Directory\MakeOwnField;
use App\Acts\Directory\SetSetting;
use App\Acts\Engine\Acts;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\HoldRun;
use App\Acts\Plan\PlaceMany;
use App\Acts\Scan\KeepSwitchVlans;
use App\Acts\Scan\StartScan;
use App\Domain\Plan\Counter;
use App\Jobs\RunScan;
use App\Links\ControlChannel;
use App\Links\NetworkLink;
use App\Models\Host;
use App\Models\Prefix;
use App\Models\Scope;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Stage;
use App\Models\Vlan;
use App\Queries\Forecasts;
use App\Queries\FreeAddresses;
use App\Queries\SwitchIntent;
use App\View\Level;
use Illuminate\Support\Facades\DB;

/** Settings that flow down, tags and own fields, and a history of daily samples from which trends are read. */
final readonly class Planning
{
    private const DAYS = 120;

    public function __construct(private Kittiwake $k)
    {
    }

    /** Before scopes are made: what they inherit. */
    public function settings(): void
    {
        $this->k->do(
            new SetSetting('organisation', 'resolvers', '', '10.32.0.54 10.38.0.53'),
            new SetSetting('organisation', 'domain', '', 'kittiwake.example'),
            new SetSetting('organisation', 'search', '', 'kittiwake.example'), new SetSetting('organisation', 'gateway', '', 'first'),
        );
        foreach ([...Kittiwake::TERMINALS, ...Kittiwake::VESSELS] as $site => [$label]) {
            $this->k->do(
                new SetSetting('site', 'domain', $this->k->id("site $site"), "$label.kittiwake.example"),
                new SetSetting('site', 'search', $this->k->id("site $site"), "$label.kittiwake.example kittiwake.example"),
            );
        }
        // Over the satellite link the nearer resolver comes first.
        $this->k->do(new SetSetting('site', 'resolvers', $this->k->id('site Hallowmere'), '10.38.0.53 10.32.0.54'));
        $field = MakeOwnField::fromInput([
            'id' => $this->k->id('field power'), 'name' => 'Power', 'kind' => 'choice', 'choices' => 'shore, generator, battery',
        ]);
        $this->k->do($field, MakeOwnField::fromInput(['id' => $this->k->id('field cabinet'), 'name' => 'Cabinet', 'kind' => 'text']));
        foreach (
            ['Gates' => 'access, guarded', 'CCTV' => 'guarded', 'Deck Wi-Fi' => 'public', 'Management' => 'guarded'] as $purpose => $tags
        ) {
            $ids = array_values(
                array_map(
                    fn (array $s): string => $s['id'],
                    array_filter($this->k->subnets, fn (array $s): bool => $s['purpose'] === $purpose),
                ),
            );
            $this->k->do(new ChangePrefix($ids, tags: $tags, own: $purpose === 'Gates' ? [$this->k->id('field power') => 'battery'] : []));
        }
    }

    /** After hosts are placed: samples that lead to what is counted today, some rising, some not, some too few. */
    public function samples(): void
    {
        Counter::fold();
        mt_srand(4711);
        $today = Forecasts::today();
        $rows = [];
        foreach (
            Prefix::query()->where('family', 4)->where('length', '<', 31)->whereIn(
                'kind',
                ['subnet', 'supernet'],
            )->orderBy('first')->get() as $i => $prefix
        ) {
            $now = Level::of($prefix)->percent;
            $days = $i % 11 === 7 ? 6 : self::DAYS;
            // Points a day: a third rises, a few fall, the rest swings around its level.
            $slope = $now > 50 && $prefix->isSubnet() && $now < 99 ? 0.08 + $i % 5 * 0.03 : match ($i % 6) {
                0, 3 => $now * (0.0015 + mt_rand(0, 30) / 10000),
                4 => -$now * 0.0008,
                default => 0.0,
            };
            $swing = $prefix->kind === 'supernet' ? 0.0 : max(0.4, $now * 0.02);
            for ($back = $days; $back >= 1; $back--) {
                $value = $now - $slope * $back + $swing * (mt_rand(-1000, 1000) / 1000);
                $rows[] = ['prefix_id' => $prefix->id, 'day' => $today - $back, 'percent' => max(0, min(100, round($value, 3)))];
            }
        }
        foreach (array_chunk($rows, 2000) as $chunk) {
            DB::table('use_samples')->insertOrIgnore($chunk);
        }
        Forecasts::sample();
        Forecasts::fit();
    }

    /** Subnets that are well filled, so that something fills up within the year. */
    public function crowd(): void
    {
        mt_srand(1207);
        foreach (
            [
                ['Management, quay 1', 'Tarbeck', 0.72], ['Plant, quay 2', 'Hallowmere', 0.66], ['Management', 'Ebb Cove', 0.88],
                ['Plant, quay 3', 'Orrin Pier', 0.58],
            ] as [$name, $site, $share]
        ) {
            $subnet = Prefix::query()->where('name', $name)->where('family', 4)->where('site_id', $this->k->id("site $site"))->first();
            $usable = $subnet === null ? 0 : $subnet->prefix()->usable()->size()->toInt();
            $free = $subnet === null
                ? []
                : FreeAddresses::next($subnet, max(1, (int) ($share * $usable) - Host::query()->where('prefix_id', $subnet->id)->count()));
            $subnet === null
                || $this->k->do(
                    new PlaceMany(
                        array_map(
                            fn ($a): array => [
                                'prefix' => $subnet->id,
                                'address' => (string) $a,
                                'mac' => sprintf('00:00:5e:00:%02x:%02x', mt_rand(0x54, 0xFE), mt_rand(0, 255)),
                            ],
                            $free,
                        ),
                    ),
                );
        }
        $gates = Prefix::query()->where('name', 'Gates, quay 1')->where('site_id', $this->k->id('site Tarbeck'))
            ->where('family', 4)->first();
        $gates === null
            || $this->k->do(
                HoldRun::fromInput([
                    'prefix' => $gates->id, 'range' => ($gates->first->plus(100)).'-'.($gates->first->plus(119)),
                    'why' => 'turnstiles of the new slip', 'until' => now()->addDays(60)->format('Y-m-d'),
                ]),
            );
    }

    /** What the simulated network has: most as planned, some on purpose not; then one scan that finds it. */
    public function network(Acts $acts): void
    {
        $keel = Server::query()->where('kind', ServerKind::Network)->first();
        if ($keel === null || ! is_file((string) config('harbor.standins'))) {
            return;
        }
        $channel = new ControlChannel($keel, 10.0);
        mt_srand(808);
        $hosts = [];
        foreach (Host::query()->orderBy('id')->get(['address', 'mac']) as $host) {
            $dice = mt_rand(0, 999);
            // A silent host now and then, and a changed MAC more rarely.
            if ($dice >= 25) {
                $hosts[] = [
                    'address' => (string) $host->address,
                    'mac' => $dice < 35 ? sprintf('00:00:5e:00:53:%02x', $dice) : (string) $host->mac,
                ];
            }
        }
        foreach (Prefix::query()->where('kind', 'subnet')->whereNotNull('gateway')->get() as $subnet) {
            $hosts[] = ['address' => (string) $subnet->gateway, 'mac' => '00:00:5e:00:01:01'];
        }
        foreach (['10.36.8.150', '10.36.8.151', '10.40.22.63'] as $i => $stray) {
            $hosts[] = ['address' => $stray, 'mac' => sprintf('00:00:5e:00:53:c%d', $i)];
        }
        foreach (array_chunk($hosts, 4000) as $chunk) {
            $channel->ask('hosts', ['hosts' => $chunk]);
        }
        $this->intents();
        $channel->ask('switches', ['vlans' => $this->switches(), 'ports' => $this->ports()]);
        $network = NetworkLink::first();
        $acts->commit(null, [new KeepSwitchVlans($network?->vlans() ?? [], $network?->ports())]);
        $scanned = Prefix::query()->whereIn('name', ['Ticketing, quay 1', 'Gates, quay 1'])->where('family', 4)
            ->where('stage', Stage::Live)
            ->whereIn('site_id', [$this->k->id('site Tarbeck'), $this->k->id('site Little Skarn')])->pluck('id')->all();
        $start = StartScan::fromInput(['space' => $this->k->id('space Core'), 'prefixes' => $scanned]);
        $this->k->do($start);
        (new RunScan($start->id))->handle($acts);
        $this->k->do(StartScan::fromInput(['space' => $this->k->id('space Core'), 'prefixes' => $scanned, 'every' => 'day', 'hour' => 3]));
    }

    /**
     * @return list<array{domain: string, number: int, name: string, gateway: string, relays: list<string>, ports: int,
     *     denies: list<string>, advertises?: array{managed: bool, other: bool, autonomous: bool}}>
     */
    private function switches(): array
    {
        $vlans = [];
        $all = Vlan::query()->with('domain')->orderBy('domain_id')->orderBy('number')->get();
        $intents = SwitchIntent::of($all);
        foreach ($all as $i => $vlan) {
            $subnet = Prefix::query()->where('vlan_id', $vlan->id)->where('family', 4)->where('kind', 'subnet')->first();
            if ($vlan->domain->site_id === null || $i % 23 === 22) {
                continue;
            }
            $six = Scope::query()->with(['ranges', 'reservations'])
                ->whereHas('prefix', fn ($q) => $q->where('vlan_id', $vlan->id)->where('family', 6))->first();
            $leases = $subnet !== null && Scope::query()->where('prefix_id', $subnet->id)->exists();
            $vlans[] = [
                'domain' => $vlan->domain->name,
                'number' => $vlan->number,
                'name' => $i % 19 === 5 ? str_replace('-', '_', strtolower($vlan->name)) : $vlan->name,
                'gateway' => (string) ($i % 17 === 9 ? $subnet?->prefix()->usable()->last : $subnet?->gateway),
                'relays' => $leases ? ($i % 13 === 4 ? ['10.32.0.67'] : ['10.32.0.67', '10.38.0.67']) : [],
                'ports' => $i % 29 === 11 ? 0 : 4 + ($i * 7) % 40,
                'denies' => match (true) {
                    $i % 31 === 3 => ['10.32.0.48/28'],
                    $intents[$vlan->id]->reach !== null => array_slice($intents[$vlan->id]->denials() ?? [], 0, $i % 4 === 1 ? 2 : null),
                    default => $i % 5 === 0 ? ['10.47.0.0/16'] : [],
                },
            ] + ($six === null ? [] : ['advertises' => $this->advertised($six)]);
        }

        return $vlans;
    }

    /**
     * Profiles at one terminal; some desks never got theirs, and one switch is not there yet.
     *
     * @return list<array<string, mixed>> ports as the switches there are set
     */
    private function ports(): array
    {
        $domain = $this->k->id('domain Tarbeck');
        $vlan = static fn (int $number): ?Vlan => Vlan::query()->where('domain_id', $domain)->where('number', $number)->first();
        [$desk, $voice, $camera] = [$vlan(110), $vlan(140), $vlan(120)];
        if ($desk === null || $voice === null || $camera === null) {
            return [];
        }
        $this->k->do(
            new KeepProfile($domain, 'Desk with phone', $desk->id, $voice->id, true, true, 5, id: $this->k->id('profile desk')),
            new KeepProfile($domain, 'Camera', $camera->id, poe: true, id: $this->k->id('profile camera')),
            new GiveProfile($this->k->id('profile desk'), 'tarbeck-sw1', '1-24'),
            new GiveProfile($this->k->id('profile desk'), 'tarbeck-sw3', '1-4'),
            new GiveProfile($this->k->id('profile camera'), 'tarbeck-sw2', 'gi1/0/1-12'),
        );
        $ports = [];
        for ($n = 1; $n <= 28; $n++) {
            $lacks = in_array($n, [7, 19, 20], true);
            $ports[] = [
                'domain' => 'Tarbeck', 'device' => 'tarbeck-sw1', 'port' => (string) $n, 'native' => 110,
                'voice' => $lacks || $n > 24 ? null : 140, 'lldp' => ! $lacks && $n <= 24, 'poe' => $n <= 24,
                'priority' => $lacks || $n > 24 ? 0 : 5,
            ];
        }
        for ($n = 1; $n <= 12; $n++) {
            $ports[] = [
                'domain' => 'Tarbeck', 'device' => 'tarbeck-sw2', 'port' => "gi1/0/$n", 'native' => $n === 12 ? 1 : 120, 'voice' => null,
                'lldp' => false, 'poe' => true, 'priority' => 0,
            ];
        }

        return $ports;
    }

    /** Who may reach what at two terminals: passengers nothing of ours, cameras nobody, gates the ticketing while ferries run. */
    private function intents(): void
    {
        foreach (['Tarbeck', 'Orrin Pier'] as $site) {
            $ids = Vlan::query()->where('domain_id', $this->k->id("domain $site"))->orderBy('number')->get()
                ->groupBy(static fn (Vlan $v): string => intdiv($v->number, 10).'0')
                ->map(static fn ($of) => array_values(array_map(strval(...), $of->modelKeys())));
            [$tickets, $cameras, $wifi, $gates] = [$ids['110'] ?? [], $ids['120'] ?? [], $ids['130'] ?? [], $ids['150'] ?? []];
            $wifi === [] ?: $this->k->do(new KeepIntent($wifi, 'no', '', '10.32.0.0/12', why: 'passengers stay on the internet'));
            foreach (array_slice($cameras, 0, 2) as $camera) {
                $this->k->do(new KeepIntent([$camera], 'no', '', '0.0.0.0/0', why: 'cameras talk to nobody'));
            }
            foreach (array_slice($cameras, 0, 3) as $camera) {
                $this->k->do(new KeepIntent([...$gates, ...$wifi], 'no', $camera));
            }
            if ($gates !== [] && $tickets !== []) {
                $days = ['1', '2', '3', '4', '5', '6'];
                $this->k->do(new KeepIntent($gates, 'yes', $tickets[0], '', $days, '05:00', 1140, 'Europe/London', 'while ferries run'));
            }
        }
    }

    /**
     * As the scope means it; on one quay the router forgot to send clients to DHCPv6.
     *
     * @return array{managed: bool, other: bool, autonomous: bool}
     */
    private function advertised(Scope $scope): array
    {
        $forgot = $scope->name === 'Ticketing, Hallowmere quay 1, IPv6';

        return ($forgot ? ['managed' => false] : []) + $scope->advertisement()->form();
    }
}
