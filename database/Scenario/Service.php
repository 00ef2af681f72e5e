<?php

declare(strict_types=1);

namespace Database\Scenario;

use App\Acts\Directory\ChangeResolving;
use App\Acts\Name\AddRecord;
use App\Acts\Name\AddSecondary;
use App\Acts\Name\GrantName;
use App\Acts\Name\MakeKey;
use App\Acts\Name\MakeZone;
use App\Acts\Name\ServeZone;
use App\Acts\Name\ShareRecords;
use App\Acts\Name\TakeRunning;
use App\Links\ControlChannel;
use App\Links\Links;
use App\Links\Names\DnsClient;
use App\Links\Names\StandinDnsLink;
use App\Models\Server;
use App\Models\TransferKey;
use App\Models\Zone;
use App\Shipping\Shipping;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\A;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\Zone\UpdateRequest;
use HarborPost\Core\Net\Address;

/**
 * How names are served: keys, who copies and updates, resolvers and stand-in roots; then what clients registered on the running servers.
 */
final class Service
{
    private const HINTS = ". 3600000 NS a.root-quay.example.net.\na.root-quay.example.net. 3600000 A 192.0.2.4\n";

    public function __construct(private readonly Kittiwake $k)
    {
    }

    /** Before anything is shipped. */
    public function plan(): void
    {
        $crew = $this->k->id('zone crew.kittiwake.example shore');
        $this->k->do(
            new MakeKey('lamps.kittiwake.example', $this->k->id('key lamps'), '', 'transfers from lamp1 to lamp2'),
            new MakeKey('tide.kittiwake.example', $this->k->id('key tide'), '', 'names that the DHCP servers register'),
            new ServeZone($this->k->id('zone kittiwake.example outside'), 'list', "key lamps.kittiwake.example\n10.38.0.53"),
            new ServeZone($crew, updateMode: 'key', updateFrom: 'key tide.kittiwake.example', lapseAfter: '192', lapseQuiet: '48'),
            new ServeZone($this->k->id('zone gates.kittiwake.example shore'), 'list', '10.32.0.0/12'),
        );
        // One record that all views share, and two people who may edit one name each.
        $shared = \App\Models\Record::query()->where('zone_id', $this->k->id('zone kittiwake.example shore'))
            ->where('type', 257)->value('id');
        $this->k->do(
            new ShareRecords(is_string($shared) ? [$shared] : [], [$this->k->id('view aboard'), $this->k->id('view outside')]),
            new GrantName(
                $this->k->id('zone kittiwake.example shore'),
                $this->k->id('person wick'),
                $this->k->id('grant wick'),
                'timetable',
                true,
            ),
            new GrantName(
                $this->k->id('zone ops.kittiwake.example shore'),
                $this->k->id('person quill'),
                $this->k->id('grant quill'),
                'harbour-gate',
            ),
        );
        $this->k->do(
            new AddRecord($this->k->id('zone ops.kittiwake.example shore'), 'TXT', '"kept by the Harbour Authority"', '', 'harbour-gate'),
        );
        // A zone whose secondary is on its way: planned, not shipped to yet.
        $this->k->do(
            new MakeZone(
                'quaynet.kittiwake.example',
                $this->k->id('view shore'),
                $this->k->id('zone quaynet'),
                [$this->k->id('server lamp1')],
                'hostmaster@kittiwake.example',
            ),
        );
        $this->k->do(
            new AddRecord($this->k->id('zone quaynet'), 'TXT', '"lines between the quays"', '', '@'),
            new AddRecord($this->k->id('zone kittiwake.example shore'), 'NS', 'lamp1', '', 'quaynet'),
        );
        $lamp = fn (string $name): string => $this->k->id("server $name");
        $this->k->do(
            new ChangeResolving([$lamp('lamp1')], 'on', '198.51.100.54', 'roots', self::HINTS),
            new ChangeResolving([$lamp('lamp2')], 'off'),
            new ChangeResolving([$lamp('lamp3')], 'on', '10.32.0.53, 10.38.0.53', 'stop'),
            new ChangeResolving(
                [$lamp('mole1')],
                'on',
                null,
                'roots',
                str_replace('192.0.2.4', '192.0.2.44', self::HINTS)."a.root-quay.example.net. 3600000 A 192.0.2.4\n",
            ),
        );
        $this->k->do(new ChangeResolving([$lamp('lamp1')], also: '198.51.100.53'));
    }

    /** When the servers run: the roots get their zones, clients register, some of it is taken in. */
    public function live(Shipping $shipping): void
    {
        $this->roots();
        $this->k->do(new AddSecondary([$this->k->id('zone quaynet')], $this->k->id('server lamp2')));
        $lamp1 = Server::query()->where('name', 'lamp1')->firstOrFail();
        $key = TransferKey::query()->findOrFail($this->k->id('key tide'));
        $zone = Zone::query()->with('view')->findOrFail($this->k->id('zone crew.kittiwake.example shore'));
        $client = new DnsClient('lamp1', $lamp1->endpoint, 5.0, $key->tsig());
        $register = fn (int $from, int $to): array => array_map(
            fn (int $i): string => $client->update(
                new UpdateRequest(
                    $zone->origin(),
                    [],
                    [new Record(Name::parse("phone-$i", $zone->origin()), 600, A::of(Address::parse("10.32.40.$i")))],
                ),
                $zone->clientInView(),
            )->name,
            range($from, $to),
        );
        $register(20, 37);
        $ages = [];
        foreach (range(20, 37) as $i) {
            $ages["phone-$i.crew.kittiwake.example. A"] = time() - ($i < 22 ? 8 * 86400 - 5400 : ($i - 20) * 8000);
        }
        (new ControlChannel($lamp1, 5.0))->ask('settle', ['view' => $zone->view->name, 'zone' => $zone->name, 'renewals' => $ages]);
        $link = Links::to($lamp1);
        if ($link instanceof StandinDnsLink) {
            [$there, $here] = $link->drift($zone);
            $serial = $link->reader()->serial($zone->origin(), $zone->clientInView());
            $this->k->do(new TakeRunning($zone->id, $lamp1->id, $serial->value ?? 0, $here, $there, $link->renewals($zone)));
        }
        $register(38, 40);
    }

    private function roots(): void
    {
        $root = Server::query()->where('name', 'root1')->firstOrFail();
        $channel = new ControlChannel($root, 5.0);
        $channel->ask('views', ['views' => [['name' => 'all', 'clients' => ['0.0.0.0/0', '::/0']]]]);
        $soa = static fn (
            string $zone,
        ): string => "$zone 3600 SOA a.root-quay.example.net. hostmaster.root-quay.example.net. 1 7200 900 1209600 300";
        $own = ['a.root-quay.example.net. 3600 A 192.0.2.4'];
        foreach ([
            '.' => [
                '. 3600 NS a.root-quay.example.net.', 'example. 3600 NS a.root-quay.example.net.',
                'net. 3600 NS a.root-quay.example.net.', ...$own,
            ],
            'example.' => [
                'example. 3600 NS a.root-quay.example.net.',
                'kittiwake.example. 3600 NS lamp1.kittiwake.example.',
                'lamp1.kittiwake.example. 3600 A 198.51.100.53',
            ],
            'net.' => [
                'net. 3600 NS a.root-quay.example.net.', ...$own, 'www.example.net. 300 A 192.0.2.80',
                'certs.example.net. 300 A 192.0.2.81',
            ],
        ] as $zone => $lines) {
            $channel->ask(
                'apply',
                ['view' => 'all', 'zone' => $zone, 'from' => null, 'first' => true, 'add' => [$soa($zone), ...$lines]],
                once: true,
            );
        }
    }
}
