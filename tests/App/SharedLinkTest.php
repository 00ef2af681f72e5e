<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeServer;
use App\Acts\Directory\MakeDomain;
use App\Acts\Directory\MakeVlan;
use App\Acts\Lease\AddReservation;
use App\Acts\Lease\ChangeScope;
use App\Acts\Lease\MakeScope;
use App\Acts\Lease\RemoveScope;
use App\Acts\Plan\ChangePrefix;
use App\Links\DhcpClient;
use App\Links\ScopeForm;
use App\Live\Exchange;
use App\Live\ExchangeFindings;
use App\Live\LeaseReading;
use App\Models\Scope;
use App\Models\Server;
use App\Queries\ServedClient;
use App\Queries\SharedLinks;
use App\Shipping\Destinations;
use App\Shipping\Shipping;
use HarborPost\Core\Dhcp\Client\ClientSketch;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Tests\Standins;
use Tests\World;

/* A VLAN that carries two subnets with a scope each: one link, served as one. */

beforeEach(function (): void {
    config(['harbor.patience' => 1.0]);
    $this->w = World::make();
    $this->s = new Standins(['dh1' => 'dhcp']);
    $own = $this->s->settings['dh1'];
    $dh1 = $this->w->servers['dh1'];
    $this->w->did(new ChangeServer($dh1, "127.0.0.1:{$own['port']}", "127.0.0.1:{$own['control']}", 'secret'));
    $this->server = fn (): Server => Server::query()->findOrFail($this->w->servers['dh1']);
    $domain = MakeDomain::fromInput(['name' => 'Quay '.bin2hex(random_bytes(3))]);
    $this->vlan = MakeVlan::fromInput(['domain' => $domain->id, 'number' => '110', 'name' => 'Ticketing']);
    $this->w->did($domain);
    $this->w->did($this->vlan);
    $this->more = $this->w->carve('192.0.2.128/26', ['name' => 'Overflow', 'stage' => 'live']);
    $this->w->did(new ChangePrefix([$this->more->id], gateway: '192.0.2.129', vlan: $this->vlan->id));
    $this->w->did(new ChangePrefix([$this->w->subnet->id], vlan: $this->vlan->id));
    $this->w->did(ChangeScope::fromInput(['scope' => $this->w->scope->id, 'servers' => [$dh1], 'ranges' => ['192.0.2.60-192.0.2.61']]));
    $this->make = MakeScope::fromInput([
        'prefix' => $this->more->id, 'name' => 'Overflow', 'ranges' => ['192.0.2.140-192.0.2.142'], 'servers' => [$dh1],
    ]);
    $this->scopes = fn (): array => [
        Scope::query()->with(SERVED)->findOrFail($this->w->scope->id), Scope::query()->with(SERVED)->findOrFail($this->make->id),
    ];
    $this->ship = fn (): array => app(Shipping::class)->ship(null, ($this->server)());
    $this->dhcp = fn (Packet $p): Packet => (new DhcpClient('dh1', $this->s->endpoint('dh1'), 1.0))->exchange($p)[0];
    $this->client = fn (int $n, ?string $asks = null): ClientSketch => new ClientSketch(
        MacAddress::parse(sprintf('02:00:5e:00:00:%02x', $n)), asked: [1, 3], requested: $asks === null ? null : Address::parse($asks),
    );
    /** A lease through the relay of the first subnet, kept. */
    $this->lease = function (int $n, ?string $asks = null): Packet {
        $client = ($this->client)($n, $asks);
        $relay = Address::parse('192.0.2.1');
        $offer = ($this->dhcp)($client->discover($n, $relay));
        $request = [OptionTable::REQUESTED_ADDRESS => $offer->yourAddress->bytes, OptionTable::SERVER_ID => $offer->options[54]];

        return ($this->dhcp)(Packet::fromClient(MessageType::Request, $n, $client->mac, $request + $client->common(), $relay));
    };
    $this->given = fn (Packet $p): string => $p->type()?->label().' '.$p->yourAddress;
});

const SERVED = ['prefix', 'placements.server', 'ranges', 'exclusions', 'reservations.optionValues', 'optionValues', 'pair.first',
    'pair.second'];

it('says that the scope beside is served otherwise, and brings it too', function (): void {
    $outcome = $this->w->acts()->rehearse($this->w->people['operator'], [$this->make]);
    $later = implode("\n", array_column($outcome->ledgers[0]->later, 0));
    expect($later)->toContain('Scopes on the link of VLAN 110 Ticketing are served as one: '.$this->w->scope->name.' is brought')
        ->and(Destinations::of($outcome)[0]['objects'])->toContain($this->w->scope->id);
    ($this->ship)();
    $this->w->did($this->make);
    $steps = array_column(($this->ship)()['steps'], 'state', 'id');
    expect($steps)->toEqualCanonicalizing([$this->w->scope->id => 'done', $this->make->id => 'done']);
    [$first, $second] = ($this->scopes)();
    expect(app(SharedLinks::class)->beside($first))->toBe([$second->id])
        ->and(ScopeForm::lines(ScopeForm::of($first, ($this->server)())))
        ->toContain('shares its link with other subnets, VLAN 110 Ticketing');
    $this->actingAs($this->w->people['operator'])->get("/lease/scope/$first->id")->assertOk()
        ->assertReads('one link with Overflow 192.0.2.128/26');
    // What is planned is on no server; what goes to another VLAN, or away, leaves the link.
    $this->w->did(ChangeScope::fromInput(['scope' => $second->id, 'stage' => 'planned']));
    expect(app(SharedLinks::class)->of($first))->toBeNull();
    $this->w->did(ChangeScope::fromInput(['scope' => $second->id, 'stage' => 'live']));
    $gone = $this->w->acts()->rehearse(null, [new ChangePrefix([$this->more->id], vlan: '-')]);
    expect(array_keys($gone->ledgers[0]->reached['']))->toEqualCanonicalizing([$first->id, $second->id]);
    $this->w->did(new ChangePrefix([$this->more->id], vlan: '-'));
    expect(app(SharedLinks::class)->of($first))->toBeNull();
    $this->w->did(new ChangePrefix([$this->more->id], vlan: $this->vlan->id));
    $away = $this->w->acts()->rehearse(null, [RemoveScope::fromInput(['scope' => $second->id])]);
    expect(array_keys($away->ledgers[0]->reached['']))->toBe([$first->id]);
});

it('gives an address of the next subnet when one is full, with the router of that subnet', function (): void {
    $this->w->did($this->make);
    ($this->ship)();
    expect(($this->given)(($this->lease)(1)))->toBe('ACK 192.0.2.60')->and(($this->given)(($this->lease)(2)))->toBe('ACK 192.0.2.61');
    $third = ($this->lease)(3);
    expect(($this->given)($third))->toBe('ACK 192.0.2.140')
        ->and((string) Address::fromBytes($third->options[OptionTable::ROUTER]))->toBe('192.0.2.129')
        ->and((string) Address::fromBytes($third->options[OptionTable::MASK]))->toBe('255.255.255.192');
    // It keeps it: asked anew through the same relay, and renewed by itself.
    expect(($this->given)(($this->lease)(3)))->toBe('ACK 192.0.2.140');
    $renew = Packet::fromClient(
        MessageType::Request, 7, MacAddress::parse('02:00:5e:00:00:03'), ($this->client)(3)->common(), null, Address::parse('192.0.2.140'),
    );
    expect(($this->given)(($this->dhcp)($renew)))->toBe('ACK 192.0.2.140');
    // An address of the link that is another's is refused as one.
    $steal = Packet::fromClient(MessageType::Request, 8, MacAddress::parse('02:00:5e:00:00:09'), [
        OptionTable::REQUESTED_ADDRESS => Address::parse('192.0.2.140')->bytes,
        OptionTable::SERVER_ID => $third->options[OptionTable::SERVER_ID],
    ], Address::parse('192.0.2.1'));
    expect(($this->dhcp)($steal)->type())->toBe(MessageType::Nak);
});

it('computes what the server does', function (): void {
    $this->w->did($this->make);
    ($this->ship)();
    $compare = function (int $n, ?string $asks = null): array {
        app(LeaseReading::class)->read(($this->server)());
        [$scope] = ($this->scopes)();
        $client = ($this->client)($n, $asks);
        $computed = ServedClient::of($scope, $client);
        $tried = Exchange::run($scope, ($this->server)(), $client);
        expect($tried->problem)->toBeNull()->and(ExchangeFindings::of($computed, ($this->server)(), $tried))->toBe([]);

        return [(string) $computed->servers[0]['address'], $computed->servers[0]['why'], $computed->servers[0]['scope']->name];
    };
    expect($compare(1))->toBe(['192.0.2.60', 'the next free one of 192.0.2.60-192.0.2.61', $this->w->scope->name]);
    // It asks for an address of the other subnet, and is known to be on the same link.
    expect($compare(4, '192.0.2.142'))->toBe(['192.0.2.142', 'it asks for it, in 192.0.2.128/26 on the same link', 'Overflow']);
    ($this->lease)(1);
    ($this->lease)(2);
    [$address, $why] = $compare(3);
    expect($address)->toBe('192.0.2.140')
        ->and($why)->toContain('is leased, reserved or kept out; the next free one of 192.0.2.140-192.0.2.142')
        ->and($why)->toContain('on the same link');
    $this->w->did(new AddReservation($this->make->id, '192.0.2.150', '02:00:5e:00:00:0a', 'till-10'));
    ($this->ship)();
    expect($compare(10))->toBe(['192.0.2.150', 'reserved for it, in 192.0.2.128/26 on the same link', 'Overflow']);
    foreach ([5, 6, 7] as $n) {
        ($this->lease)($n);
    }
    app(LeaseReading::class)->read(($this->server)());
    $nobody = ServedClient::of(($this->scopes)()[0], ($this->client)(8));
    expect($nobody->servers[0]['address'])->toBeNull()
        ->and($nobody->servers[0]['silent'])->toContain('so it is in each other subnet of the link');
    $this->actingAs($this->w->people['operator'])->get('/lease/exchange?'.http_build_query(['scope' => $this->w->scope->id,
        'mac' => '02:00:5e:00:00:0a']))->assertOk()->assertReads('on the same link')->assertSee("/lease/scope/{$this->make->id}", false);
});

it('proves a full scope on a shared link without taking the other for wrong', function (): void {
    $this->w->did($this->make);
    ($this->ship)();
    ($this->lease)(1);
    ($this->lease)(2);
    app(LeaseReading::class)->read(($this->server)());
    $this->w->did(ChangeScope::fromInput(['scope' => $this->w->scope->id, 'leaseTime' => '2h']));
    [$step] = ($this->ship)()['steps'];
    expect($step['state'])->toBe('done')->and($step['message'])->toContain('of another subnet on the link was offered');
});

it('serves subnets of different links apart', function (): void {
    $this->w->did(new ChangePrefix([$this->more->id], vlan: '-'));
    $this->w->did($this->make);
    ($this->ship)();
    ($this->lease)(1);
    ($this->lease)(2);
    expect(fn () => ($this->lease)(3))->toThrow(App\Links\Unanswered::class);
});
