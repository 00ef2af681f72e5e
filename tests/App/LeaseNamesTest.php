<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeServer;
use App\Acts\Lease\NameLeases;
use App\Acts\Name\MakeKey;
use App\Acts\Name\RemoveKey;
use App\Acts\Name\RemoveZone;
use App\Acts\Name\ServeZone;
use App\Links\DhcpClient;
use App\Links\DifferenceState;
use App\Links\Links;
use App\Links\Names\DnsClient;
use App\Links\ScopeForm;
use App\Models\Scope;
use App\Models\Server;
use App\Models\ShipmentState;
use App\Models\TransferKey;
use App\Shipping\Shipping;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Tests\Standins;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    $this->w->did(MakeKey::fromInput(['name' => 'tide.quay.example']));
    $this->key = TransferKey::query()->where('name', 'tide.quay.example.')->sole();
    $this->open = function (): void {
        foreach ([$this->w->zone, $this->w->reverse] as $zone) {
            $this->w->did(ServeZone::fromInput(['zone' => $zone->id, 'updateMode' => 'key', 'updateFrom' => 'key tide.quay.example']));
        }
    };
    $this->input = fn (array $more = []): array => $more + [
        'scopes' => [$this->w->scope->id], 'zone' => $this->w->zone->id, 'key' => $this->key->id, 'who' => 'server',
    ];
    $this->scope = fn (): Scope => Scope::query()
        ->with(['prefix', 'ranges', 'exclusions', 'placements.server', 'reservations', 'optionValues', 'nameZone.placements.server',
            'nameZone.view', 'nameKey'])
        ->findOrFail($this->w->scope->id);
});

it('refuses what could not be written, and says what lacks', function (array $more, string $code): void {
    $code === 'zone-refuses-updates' && ($more['open'] ?? false) === false ?: ($this->open)();
    unset($more['open']);
    $more = array_map(fn ($v) => $v === 'REVERSE' ? $this->w->reverse->id : $v, $more);
    expect($this->w->refusal(NameLeases::class, ($this->input)($more)))->toBe($code);
})->with([
    [['zone' => ''], 'no-zone'], [['zone' => 'REVERSE'], 'no-zone'], [[], 'zone-refuses-updates'],
    [['key' => '', 'open' => true], 'zone-refuses-updates'],
    [['from' => 'pattern'], 'bad-pattern'], [['pattern' => 'crew'], 'bad-pattern'], [['ttl' => 'soon'], 'bad-ttl'],
]);

it('warns of what is missing', function (): void {
    ($this->open)();
    $this->w->did(ServeZone::fromInput(['zone' => $this->w->reverse->id, 'updateMode' => 'refused']));
    $notes = $this->w->acts()->rehearse(null, [NameLeases::fromInput(($this->input)(['ttl' => '1d']))])->notes();
    expect(array_column($notes, 'code'))->toContain('no-reverse-zone')->toContain('ttl-longer-than-lease');
});

it('keeps a zone and a key that leases are named with', function (): void {
    ($this->open)();
    $this->w->did(NameLeases::fromInput(($this->input)()));
    expect($this->w->refusal(RemoveZone::class, ['zone' => $this->w->zone->id]))->toBe('names-leases')
        ->and($this->w->refusal(RemoveKey::class, ['key' => $this->key->id]))->toBe('key-in-use');
    $form = ScopeForm::of(($this->scope)(), ($this->scope)()->placements->first()->server);
    expect($form['names']['reverse'])->toHaveKey('2.0.192.in-addr.arpa.')->and(json_encode($form))->not->toContain($this->key->secret);
    $this->w->did(NameLeases::fromInput(($this->input)(['who' => 'nobody'])));
    expect(($this->scope)()->name_zone_id)->toBeNull()
        ->and(ScopeForm::of(($this->scope)(), ($this->scope)()->placements->first()->server))->not->toHaveKey('names');
});

it('ships it, and a client that leases is found by its name', function (): void {
    config(['harbor.patience' => 1.0]);
    $s = new Standins(['ns1' => 'dns', 'ns2' => 'dns', 'dh1' => 'dhcp', 'dh2' => 'dhcp']);
    foreach ($s->settings as $name => $own) {
        $this->w->did(new ChangeServer($this->w->servers[$name], '127.0.0.1:'.$own['port'], '127.0.0.1:'.$own['control'], 'secret'));
    }
    ($this->open)();
    $this->w->did(NameLeases::fromInput(($this->input)(['pattern' => 'seat-{c}-{d}', 'ttl' => '5m'])));
    foreach (['ns1', 'dh1', 'dh2'] as $name) {
        expect(app(Shipping::class)->ship(null, Server::query()->findOrFail($this->w->servers[$name]))['state'])->toBe(ShipmentState::Done);
    }
    expect(array_column(Links::to(Server::query()->findOrFail($this->w->servers['dh1']))->compare(), 'state'))
        ->each->toBe(DifferenceState::Same);
    $lease = function (string $mac, array $more) use ($s): string {
        $ask = fn (MessageType $type, array $options): Packet => (new DhcpClient('dh1', $s->endpoint('dh1'), 1.0))->exchange(
            Packet::fromClient($type, random_int(1, 9999), MacAddress::parse($mac), $options + $more, Address::parse('192.0.2.1')),
        )[0];
        $offer = $ask(MessageType::Discover, []);

        return (string) $ask(MessageType::Request, [50 => $offer->yourAddress->bytes, 54 => $offer->options[54]])->yourAddress;
    };
    $one = $lease('02:00:5e:00:00:01', [12 => 'lamp']);
    $two = $lease('02:00:5e:00:00:02', []);
    $ask = fn (string $name, string $type): array => array_map(
        static fn ($r): string => $r->data->text(),
        (new DnsClient('ns1', $s->endpoint('ns1'), 1.0))->ask(Name::parse($name), RecordType::parse($type), null, false)->message->answers,
    );
    $seat = 'seat-2-'.explode('.', $two)[3].'.'.$this->w->zone->name;
    for ($i = 0; $i < 80 && ($ask("lamp.{$this->w->zone->name}", 'A') === [] || $ask($seat, 'A') === []); $i++) {
        usleep(100_000);
    }
    expect($ask("lamp.{$this->w->zone->name}", 'A'))->toBe([$one])->and($ask($seat, 'A'))->toBe([$two]);
    $this->actingAs($this->w->people['operator']);
    usleep(600_000);
    $this->get("/lease/scope/{$this->w->scope->id}/names")->assertOk()->assertReads('lamp.'.rtrim($this->w->zone->name, '.'))
        ->assertReads('stands in the name service');
    $this->get("/lease/scope/{$this->w->scope->id}")->assertOk()->assertReads('signed with tide.quay.example');
    $this->actingAs($this->w->people['reader']);
    $this->get("/lease/scope/{$this->w->scope->id}/names")->assertForbidden();
});

it('names leases of IPv6 by a pattern of their own, with the pointers of their tree', function (): void {
    ($this->open)();
    $this->w->carve('2001:db8:36::/48', ['kind' => 'supernet', 'stage' => 'live', 'name' => 'Quay, IPv6']);
    $link = $this->w->carve('2001:db8:36:1::/64', ['name' => 'Ticketing, IPv6', 'stage' => 'live']);
    $make = App\Acts\Lease\MakeScope::fromInput([
        'prefix' => $link->id, 'ranges' => ['2001:db8:36:1::100-2001:db8:36:1::1ff'], 'servers' => [$this->w->servers['dh1']],
    ]);
    $this->w->did($make);
    $reverse = $this->w->zone('6.3.0.0.8.b.d.0.1.0.0.2.ip6.arpa');
    $this->w->did(ServeZone::fromInput(['zone' => $reverse->id, 'updateMode' => 'key', 'updateFrom' => 'key tide.quay.example']));
    $input = fn (array $more): array => ['scopes' => [$make->id]] + ($this->input)($more);
    expect($this->w->refusal(NameLeases::class, $input(['pattern' => 'seat-{c}-{d}'])))->toBe('bad-pattern');
    $this->w->did(NameLeases::fromInput($input(['pattern' => 'seat-{h}'])));
    $scope = Scope::query()->findOrFail($make->id);
    $form = ScopeForm::of($scope, Server::query()->findOrFail($this->w->servers['dh1']));
    expect(array_keys($form['names']['reverse']))->toBe([$reverse->name])->and($form['names']['pattern'])->toBe('seat-{h}')
        ->and(implode("\n", ScopeForm::lines($form)))->toContain("pointers go into $reverse->name");
    $this->actingAs($this->w->people['operator'])->get("/lease/scope/$make->id")->assertOk()
        ->assertReads('Who says nothing is named by the pattern');
});
