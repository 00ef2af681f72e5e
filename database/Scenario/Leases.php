<?php

declare(strict_types=1);

namespace Database\Scenario;

use App\Acts\Engine\Acts;
use App\Acts\Lease\AddReservation;
use App\Acts\Lease\DefineOption;
use App\Acts\Lease\KeepRange;
use App\Acts\Lease\KeepVendorTemplate;
use App\Acts\Lease\MakeClass;
use App\Acts\Lease\MakePair;
use App\Acts\Lease\MakeScope;
use App\Acts\Lease\NameLeases;
use App\Acts\Lease\PairScopes;
use App\Acts\Lease\SetOption;
use App\Acts\Lease\SetShares;
use App\Acts\Lease\SetVendorOptions;
use App\Acts\Name\AddRecord;
use App\Links\ControlChannel;
use App\Links\LeaseLink;
use App\Links\ScopeForm;
use App\Live\LeaseReading;
use App\Live\PairWatch;
use App\Models\Host;
use App\Models\Pair;
use App\Models\Prefix;
use App\Models\Scope;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Stage;
use App\Shipping\KeepSigned;
use App\Shipping\Shipping;
use Brick\Math\BigInteger;
use HarborPost\Core\Exchange\Pair\PairState;
use HarborPost\Core\Net\Prefix as Net;

/** Scopes, what servers hold of them, leases, and the things that are wrong on servers on purpose. */
final class Leases
{
    public function __construct(private readonly Acts $acts, private readonly Kittiwake $k)
    {
    }

    public function load(): void
    {
        $this->scopes();
        if (! is_file((string) config('harbor.standins'))) {
            return;
        }
        (new Partner($this->k))->there();
        $shipping = new Shipping($this->acts);
        foreach (Server::query()->whereIn('kind', [...ServerKind::naming(), ServerKind::Dhcp])->orderBy('name')->get() as $server) {
            $shipping->ship(null, $server);
        }
        $this->grant();
        $this->misbehave($shipping);
        (new Service($this->k))->live($shipping);
        (new Signed($this->k, new KeepSigned($this->acts, $shipping)))->live($shipping);
        $this->meet();
    }

    private function scopes(): void
    {
        $this->k->do(
            DefineOption::fromInput(
                ['code' => '224', 'name' => 'ticket servers', 'shape' => 'addresses', 'description' => 'where kiosks sell'],
            ),
            SetOption::fromInput(
                ['layer' => 'site', 'of' => $this->k->id('site Orrin Pier'), 'code' => '224', 'value' => '10.32.0.80 10.38.0.80'],
            ),
        );
        foreach ($this->k->subnets as $i => $subnet) {
            $net = Net::parse($subnet['net']);
            if (
                ! in_array($subnet['purpose'], ['Ticketing', 'Voice', 'Deck Wi-Fi', 'CCTV', 'Passenger Wi-Fi'], true)
                    || $net->family()->value !== 4
            ) {
                continue;
            }
            $id = $this->k->id("scope {$subnet['id']}");
            $prefix = Prefix::query()->findOrFail($subnet['id']);
            $label = Kittiwake::TERMINALS[$subnet['site']][0] ?? Kittiwake::VESSELS[$subnet['site']][0];
            $this->k->do(new MakeScope(
                prefix: $subnet['id'],
                id: $id,
                name: "{$subnet['purpose']}, {$subnet['site']}".($subnet['quay'] > 0 ? ' quay '.($subnet['quay'] + 1) : ''),
                stage: $subnet['stage'] === 'planned' ? 'planned' : 'live',
                ranges: $this->ranges($subnet['purpose'], $net), servers: [$this->k->id('server tide1'), $this->k->id('server tide2')],
                leaseTime: match ($subnet['purpose']) {
                    'Deck Wi-Fi', 'Passenger Wi-Fi' => '7200', 'Voice' => '86400', default => '28800',
                },
                // Ticketing takes resolvers, domain and suffixes from its site; the others were made before there were settings.
                router: (string) $prefix->gateway,
                dns: $subnet['purpose'] === 'Ticketing' ? '' : '10.32.0.54 10.38.0.53',
                domain: $subnet['purpose'] === 'Ticketing' ? '' : "$label.kittiwake.example",
                search: $subnet['purpose'] === 'Ticketing' ? '' : "$label.kittiwake.example kittiwake.example",
                divide: true,
            ));
            $subnet['purpose'] === 'Voice' && $this->k->do(new SetOption($id, 66, 'boot.kittiwake.example'));
            if ($subnet['purpose'] === 'CCTV' && $subnet['stage'] === 'live') {
                $this->reserve($id, $subnet['id']);
            }
        }
        $this->pairs();
        $this->layers();
        $this->six();
        // Wrong on purpose: a router that is not on its subnet.
        $ebb = Scope::query()->where('name', 'Ticketing, Ebb Cove')->first();
        $ebb === null || $this->k->do(new SetOption($ebb->id, 3, '10.44.64.1'));
    }

    /** The Wi-Fi of the quays is leased by two servers that know of each other; at one pier the second one stands by. */
    private function pairs(): void
    {
        $wifi = $this->k->id('pair Wi-Fi');
        $pier = $this->k->id('pair Orrin Pier');
        $this->k->do(
            new MakePair('Quay Wi-Fi', $this->k->id('server tide1'), $this->k->id('server tide2'), $wifi, 'balance', 50, '1h'),
            new MakePair('Orrin Pier', $this->k->id('server tide1'), $this->k->id('server tide3'), $pier, 'standby', 20, '30m'),
        );
        $scopes = Scope::query()->where('name', 'like', 'Deck Wi-Fi,%')->where('stage', Stage::Live)->orderBy('name')->get();
        $of = $scopes->mapToGroups(
            static fn (Scope $s): array => [str_starts_with($s->name, 'Deck Wi-Fi, Orrin Pier') ? $pier : $wifi => $s->id],
        );
        foreach ($of as $pair => $ids) {
            $this->k->do(new PairScopes(array_values($ids->all()), $pair));
        }
    }

    /** On two quays IPv6 is leased in shares, and moored vessels are delegated prefixes; cameras make addresses of their own. */
    private function six(): void
    {
        $servers = [$this->k->id('server tide1'), $this->k->id('server tide2')];
        foreach ($this->k->subnets as $subnet) {
            $net = Net::parse($subnet['net']);
            $here = in_array($subnet['site'], ['Orrin Pier', 'Hallowmere'], true) && $subnet['quay'] === 0 && $subnet['stage'] === 'live';
            if (! $here || $net->family()->value !== 6) {
                continue;
            }
            $leases = in_array($subnet['purpose'], ['Ticketing', 'Deck Wi-Fi'], true);
            $first = $net->first->plus(0x1000) ?? $net->first;
            $this->k->do(new MakeScope(
                prefix: $subnet['id'],
                id: $this->k->id("scope {$subnet['id']}"),
                name: "{$subnet['purpose']}, {$subnet['site']} quay 1, IPv6",
                ranges: $leases ? ["$first-".($first->plus(0x2FFF) ?? $first)] : [],
                servers: $servers,
                leaseTime: '8h',
                dns: '2001:db8:4b00::35 2001:db8:4b00:1::35',
                search: 'kittiwake.example',
                divide: true,
                preferred: '5h',
                delegations: $leases && $subnet['purpose'] === 'Deck Wi-Fi' && $subnet['site'] === 'Orrin Pier'
                    ? ['2001:db8:4bc8::/52 as /56']
                    : [],
                rapid: $subnet['purpose'] === 'Deck Wi-Fi',
                autonomous: $subnet['purpose'] === 'Deck Wi-Fi',
            ));
        }
        $quay = Scope::query()->where('name', 'Deck Wi-Fi, Orrin Pier quay 1, IPv6')->first();
        $quay === null ?: $this->k->do(
            new SetOption(code: 32, value: '86400', layer: 'organisation', family: '6'),
            new SetOption(code: 31, value: '2001:db8:4b00::7b', layer: 'organisation', family: '6'),
            new AddReservation($quay->id, (string) $quay->prefix->prefix()->first->plus(0x20), '00:03:00:01:00:00:5e:00:53:a1', 'purser'),
            new NameLeases(
                [$quay->id],
                'server',
                $this->k->id('zone crew.kittiwake.example shore'),
                $this->k->id('key tide'),
                'client',
                'crew-{h}',
            ),
        );
    }

    /**
     * Leases of IPv6 as clients have them: known by DUID, a vessel with a prefix of its own.
     *
     * @return list<array<string, mixed>>
     */
    private static function grantedV6(Scope $scope, Server $server, int $now): array
    {
        $leases = [];
        $give = static function (string $address, int $length, string $name) use (&$leases, $scope, $now): void {
            $age = mt_rand(0, intdiv($scope->preferred(), 2));
            $leases[] = [
                'address' => $address, 'length' => $length, 'iaid' => mt_rand(1, 9), 'name' => $name, 'scope' => $scope->id,
                'client' => sprintf('00:03:00:01:02:00:5e:%02x:%02x:%02x', mt_rand(0, 255), mt_rand(0, 255), mt_rand(0, 255)),
                'starts' => $now - $age, 'ends' => $now - $age + $scope->lease_time, 'preferred' => $now - $age + $scope->preferred(),
            ];
        };
        $range = $scope->ranges->firstWhere('server_id', $server->id);
        for ($i = 0, $at = $range?->first; $i < 40 && $at !== null; $i++, $at = $at->plus(mt_rand(1, 90))) {
            $give((string) $at, 128, 'client-'.mt_rand(1000, 9999));
        }
        $pool = $scope->delegations->firstWhere('server_id', $server->id)?->delegation();
        foreach ($server->name !== 'tide1' ? [] : ['mv-dunlin', 'mv-turnstone', 'mv-sanderling'] as $i => $vessel) {
            $part = $pool?->part(BigInteger::of($i * 2 + 1));
            $part === null ?: $give((string) $part->first, $part->length, $vessel);
        }

        return $leases;
    }

    /** Both pairs hear each other; then one loses its second server. */
    private function meet(): void
    {
        $watch = new PairWatch($this->acts);
        // One that is silent is not waited for as long as for people.
        config(['harbor.patience' => 0.5]);
        $pairs = Pair::query()->with(['first', 'second'])->get();
        $wait = static function (callable $holds) use ($watch, $pairs): void {
            for ($i = 0; $i < 60; $i++) {
                if ($holds(array_map(static fn (array $s): mixed => $s['told']['state'] ?? null, $watch->read($pairs)))) {
                    return;
                }
                usleep(200_000);
            }
        };
        $wait(static fn (array $states): bool => array_unique($states) === [PairState::Normal->value]);
        (new ControlChannel(Server::query()->where('name', 'tide3')->firstOrFail(), 5.0))->ask('mode', ['mode' => 'silent']);
        $wait(static fn (array $states): bool => in_array(PairState::Interrupted->value, $states, true));
    }

    /** Options by layer and by class: what all clients are told, what one terminal says otherwise, and devices of one maker. */
    private function layers(): void
    {
        $radios = $this->k->id('class Deck radios');
        $boxes = $this->k->id('class Callboxes');
        $this->k->do(
            new MakeClass('Deck radios', $radios, 'all', ['vendor-class'], ['starts'], ['gullwave-ap'], 'radios of the deck Wi-Fi'),
            new MakeClass(
                'Callboxes',
                $boxes,
                'any',
                ['vendor-class', 'mac'],
                ['starts', 'starts'],
                ['callbox-', '00:00:5e:00:53'],
                'quay phones',
            ),
            new KeepVendorTemplate(
                'Gullwave radios', "241 controllers: addresses\n2 mode: uint8\n3 site: text", 'gullwave-',
                id: $this->k->id('template radios'),
            ),
            SetVendorOptions::fromInput([
                'template' => $this->k->id('template radios'), 'layer' => 'class', 'of' => $radios,
                'subs' => ['241' => '10.32.4.10, 10.32.4.11', '3' => 'quay'],
            ]),
            new SetOption(code: 66, value: 'boot.kittiwake.example', layer: 'class', of: $boxes),
            new SetOption(code: 42, value: '10.32.0.123 10.38.0.123', layer: 'organisation'),
            new SetOption(code: 2, value: '0', layer: 'organisation'),
            new SetOption(code: 42, value: '10.36.0.123', layer: 'site', of: $this->k->id('site Orrin Pier')),
        );
        $crew = Scope::query()->where('name', 'like', 'Deck Wi-Fi, Hallowmere%')->orderBy('name')->pluck('id')->map(strval(...))->all();
        $crew === [] || $this->k->do(new NameLeases(
            array_values($crew),
            'server',
            $this->k->id('zone crew.kittiwake.example shore'),
            $this->k->id('key tide'),
            'client',
            'crew-{c}-{d}',
        ));
        $voice = Scope::query()->with('ranges')->where('name', 'like', 'Voice,%')->where('stage', Stage::Live)->orderBy('name')->get();
        foreach ($voice as $scope) {
            $this->k->do(new SetShares([$scope->id], 80, '', 250));
        }
        $first = $voice->first();
        $range = $first?->ranges->first();
        $first === null || $range === null ?: $this->k->do(new KeepRange($first->id, $range->id, 'only', $boxes));
    }

    /** @return list<string> reservations only for cameras; a seam at four fifths for telephones */
    private function ranges(string $purpose, Net $net): array
    {
        if ($purpose === 'CCTV') {
            return [];
        }
        $first = $net->first->plus(200) ?? $net->first;
        $last = $net->last()->plus(-2) ?? $net->last();
        if ($purpose !== 'Voice') {
            return ["$first-$last"];
        }
        $count = $last->minus($first)->plus(1)->toInt();
        $seam = $first->plus(intdiv($count * 4, 5) - 1) ?? $last;

        return ["$first-$seam@tide1", $seam->next()."-$last@tide2"];
    }

    private function reserve(string $scope, string $prefix): void
    {
        $hosts = Host::query()->where('prefix_id', $prefix)->whereNotNull('mac')->orderBy('address')->limit(20)->get();
        $seen = [];
        foreach ($hosts as $host) {
            if (! isset($seen[(string) $host->mac])) {
                $seen[(string) $host->mac] = true;
                $this->k->do(
                    new AddReservation(
                        $scope,
                        (string) $host->address,
                        (string) $host->mac,
                        explode('.', $host->name)[0],
                    ),
                );
            }
        }
    }

    private function grant(): void
    {
        mt_srand(67);
        $now = time();
        foreach (Server::query()->where('kind', ServerKind::Dhcp)->get() as $server) {
            $leases = [];
            foreach (LeaseLink::placed($server) as $scope) {
                if ($scope->prefix->family === 6) {
                    array_push($leases, ...self::grantedV6($scope, $server, $now));

                    continue;
                }
                $range = $scope->ranges->first(
                    fn ($r): bool => $r->server_id === $server->id || $r->server_id === null && $server->name === 'tide1',
                );
                if ($range === null || $scope->stage === Stage::Planned) {
                    continue;
                }
                for ($i = 0, $at = $range->first; $i < 85 && $at !== null; $i++, $at = $at->plus(mt_rand(1, 2))) {
                    $age = mt_rand(0, intdiv($scope->lease_time, 2));
                    $leases[] = [
                        'address' => (string) $at,
                        'mac' => sprintf('02:00:5e:%02x:%02x:%02x', mt_rand(0, 255), mt_rand(0, 255), mt_rand(0, 255)),
                        'name' => 'client-'.mt_rand(1000, 9999),
                        'starts' => $now - $age,
                        'ends' => $now - $age + $scope->lease_time,
                        'scope' => $scope->id,
                    ];
                }
            }
            foreach (array_chunk($leases, 500) as $chunk) {
                (new ControlChannel($server, 5.0))->ask('grant', ['leases' => $chunk]);
            }
        }
        foreach (Server::query()->where('kind', ServerKind::Dhcp)->get() as $server) {
            (new LeaseReading($this->acts))->read($server);
        }
    }

    /** A secondary that lags, and a scope that somebody changed on tide2. */
    private function misbehave(Shipping $shipping): void
    {
        $this->k->do(
            new AddRecord($this->k->id('zone retail.kittiwake.example shore'), 'A', '10.36.16.20', '', 'shop', '600'),
            new AddRecord($this->k->id('zone retail.kittiwake.example shore'), 'CNAME', 'shop', '', 'www'),
        );
        // The secondary does not hear the notification, so it lags until its refresh is due.
        $lamp2 = new ControlChannel(Server::query()->where('name', 'lamp2')->firstOrFail(), 5.0);
        $lamp2->ask('mode', ['mode' => 'silent']);
        $shipping->ship(null, Server::query()->where('name', 'lamp1')->firstOrFail());
        $lamp2->ask('mode', ['mode' => 'normal']);
        $tide2 = Server::query()->where('name', 'tide2')->firstOrFail();
        $scope = LeaseLink::placed($tide2)->firstWhere('name', 'Deck Wi-Fi, Tarbeck');
        if ($scope !== null) {
            $form = ScopeForm::of($scope, $tide2);
            $form['lease_time'] = 86400;
            $form['options'][6] = '0a200035';
            (new ControlChannel($tide2, 5.0))->ask('put', ['scope' => $form]);
        }
    }
}
