<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeResolving;
use App\Acts\Directory\ChangeServer;
use App\Acts\Directory\MakeServer;
use App\Acts\Engine\Act;
use App\Acts\Name\AddRecord;
use App\Acts\Name\AddSecondary;
use App\Acts\Name\ListSecondary;
use App\Acts\Name\MakeKey;
use App\Acts\Name\MakeZone;
use App\Acts\Name\RemoveKey;
use App\Acts\Name\RemoveSecondary;
use App\Acts\Name\ServeZone;
use App\Links\Names\DnsClient;
use App\Links\Names\Resolving;
use App\Live\Descent;
use App\Live\ResolverPath;
use App\Live\ZoneService;
use App\Models\Record;
use App\Models\Server;
use App\Models\ShipmentState;
use App\Models\TransferKey;
use App\Models\Zone;
use App\Models\ZoneServer;
use App\Shipping\Shipping;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\A;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Zone\UpdateRequest;
use HarborPost\Core\Exchange\QueryPath;
use HarborPost\Core\Net\Address;
use Tests\Standins;
use Tests\World;

/*
 * How names are served, from the act to the packet.
 */

beforeEach(function (): void {
    $this->w = World::make(false);
    $this->s = new Standins(['ns1' => 'dns', 'ns2' => 'dns', 'root' => 'roots']);
    foreach (['ns1', 'ns2'] as $name) {
        $this->w->did(
            new ChangeServer(
                $this->w->servers[$name],
                $this->s->endpoint($name),
                '127.0.0.1:'.$this->s->settings[$name]['control'],
                'secret',
            ),
        );
    }
    config(['harbor.patience' => 1.0]);
    $this->server = fn (string $name): Server => Server::query()->findOrFail($this->w->servers[$name]);
    $this->ship = fn (string $name): array => app(Shipping::class)->ship(null, ($this->server)($name));
    $this->code = fn (Act $act): ?string => $this->w->acts()->rehearse($this->w->people['operator'], [$act])->block()?->code;
    $this->notes = fn (Act $act): array => array_map(
        fn ($n): string => $n->code,
        array_filter($this->w->acts()->rehearse($this->w->people['operator'], [$act])->notes(), fn ($n): bool => $n->warns()),
    );
    $this->fresh = fn (): Zone => Zone::query()->with(['view', 'placements.server'])->findOrFail($this->w->zone->id);
    $this->key = function (string $name = 'quay-key'): TransferKey {
        $act = MakeKey::fromInput(['name' => $name.bin2hex(random_bytes(3)).'.example']);
        $this->w->did($act);

        return TransferKey::query()->findOrFail($act->id);
    };
});

it('brings a secondary into service step by step, measured, and says who holds it up', function (): void {
    $w = $this->w;
    $make = MakeZone::fromInput([
        'name' => 'way.example', 'view' => $w->view, 'servers' => [$w->servers['ns1']], 'nameServers' => 'ns1.way.example.',
    ]);
    $w->did($make);
    $w->did(new AddSecondary([$make->id], $w->servers['ns2']));
    $placement = ZoneServer::query()->where('zone_id', $make->id)->where('server_id', $w->servers['ns2'])->sole();
    $way = function () use ($make, $placement): array {
        $service = ZoneService::of(Zone::query()->with(['view', 'placements.server'])->findOrFail($make->id));

        return array_map(fn (array $s): string => $s['state'], $service->way($placement->load('server')));
    };
    expect($placement->planned)->toBeTrue()
        ->and(Record::query()->where('zone_id', $make->id)->where('type', RecordType::NS)->count())->toBe(1)
        ->and($way())->toBe(['waits', 'held', 'waits', 'waits', 'waits', 'waits', 'waits']);
    ($this->ship)('ns1');
    expect($way())->toBe(['waits', 'done', 'held', 'waits', 'waits', 'waits', 'waits']);
    expect(($this->ship)('ns2')['state'])->toBe(ShipmentState::Done)->and($way())
        ->toBe(['waits', 'done', 'done', 'done', 'done', 'done', 'held']);
    $w->did(new ListSecondary($placement->id));
    expect(Record::query()->where('zone_id', $make->id)->where('type', RecordType::NS)->count())->toBe(2)
        ->and($placement->refresh()->planned)->toBeFalse();
    ($this->ship)('ns1');
    $zone = Zone::query()->findOrFail($make->id);
    // The primary told the secondary, which fetched the change; nothing is left to ship to it.
    expect((string) (new DnsClient('ns2', $this->s->endpoint('ns2')))->serial($zone->origin(), Address::parse('192.0.2.9')))
        ->toBe((string) $zone->serial)->and(($this->ship)('ns2')['steps'])->toBe([])->and($way())->not
        ->toContain('held');
    $service = ZoneService::of(Zone::query()->with(['view', 'placements.server'])->findOrFail($make->id))->way($placement->load('server'));
    expect(end($service)['words'])->toContain('says so');
    $rows = ZoneService::of($zone->load(['view', 'placements.server']))->servers();
    expect(array_column($rows, 'step'))->toBe(['same', 'same'])->and($rows[1]['expires']?->isFuture())->toBeTrue()
        ->and($rows[1]['transfer'])->toBe('steps');
    $this->actingAs($w->people['operator'])->get("/name/zone/$make->id/service")->assertOk()
        ->assertSee('by difference (IXFR)')->assertSee('serves until');
    expect(($this->code)(new AddSecondary([$make->id], $w->servers['ns2'])))->toBe('placed-already')
        ->and(($this->code)(new RemoveSecondary($zone->primaryPlacement()->id)))->toBe('is-primary');
    $w->did(new RemoveSecondary($placement->id));
    ($this->ship)('ns2');
    app(Shipping::class)->ship(null, ($this->server)('ns2'));
    expect((new DnsClient('ns2', $this->s->endpoint('ns2')))->serial($zone->origin(), Address::parse('192.0.2.9')))->toBeNull();
});

it('lets copy and update whom the lists name, and says what is risky', function (): void {
    $key = ($this->key)();
    $zone = $this->w->zone;
    expect(($this->code)(new ServeZone($zone->id, 'list', 'key nobody.example')))->toBe('no-such-key')
        ->and(($this->code)(new ServeZone($zone->id, 'list', '192.0.2.9/24')))->toBe('not-a-prefix')
        ->and(($this->notes)(new ServeZone($zone->id, 'list', '0.0.0.0/0')))->toBe(['wide-copy'])
        ->and(($this->notes)(new ServeZone($zone->id, 'nobody')))->toBe(['secondary-shut-out'])
        ->and(($this->code)(new ServeZone($zone->id, updateMode: 'key', updateFrom: '192.0.2.0/24')))
        ->toBe('no-update-key')->and(($this->code)(new ServeZone($zone->id, updateMode: 'address', updateFrom: '')))
        ->toBe('no-update-prefix')
        ->and(($this->notes)(new ServeZone($zone->id, updateMode: 'address', updateFrom: '192.0.2.0/25')))->toContain('update-by-address')
        ->and(($this->code)(new ServeZone($zone->id, lapseAfter: '10', lapseQuiet: '6')))->toBe('bad-lapse')
        ->and(($this->notes)(new ServeZone($zone->id, lapseAfter: '10', lapseQuiet: '5')))
        ->toContain('lapse-without-updates')
        ->and(($this->code)(new ServeZone($zone->id, 'some')))->toBe('bad-copies')
        ->and(($this->code)(new ServeZone($zone->id, lapseAfter: 'soon')))->toBe('bad-hours');
    $this->w->did(new ServeZone($zone->id, 'list', "key {$key->title()}\n192.0.2.77", 'key', 'key '.$key->title(), '24', '6'));
    expect(($this->code)(new RemoveKey($key->id)))->toBe('key-in-use');
    expect(ZoneService::of(($this->fresh)())->lapseFaults())->toHaveCount(1)
        ->and(ZoneService::of(($this->fresh)())->lapseFaults()[0])->toContain('not told yet');
});

it('takes what clients registered into the plan, or undoes it there', function (): void {
    $key = ($this->key)();
    $zone = $this->w->zone;
    $this->w->did(new ServeZone($zone->id, updateMode: 'key', updateFrom: "key {$key->title()}", lapseAfter: '24', lapseQuiet: '6'));
    expect(($this->ship)('ns1')['state'])->toBe(ShipmentState::Done)->and(ZoneService::of(($this->fresh)())->lapseFaults())->toBe([]);
    $client = new DnsClient('ns1', $this->s->endpoint('ns1'), 2.0, $key->tsig());
    $register = fn (string $name, string $address) => $client->update(
        new UpdateRequest(
            $zone->origin(),
            [],
            [new \HarborPost\Core\Dns\Record(Name::parse($name, $zone->origin()), 600, A::of(Address::parse($address)))],
        ),
        Address::parse('192.0.2.9'),
    );
    $update = function (array $of) use ($zone, $key): array {
        $status = Illuminate\Support\Facades\Artisan::call(
            'dns:update',
            $of + [
                'zone' => $zone->title(), '--server' => ($this->server)('ns1')->name, '--key' => $key->title(), '--for' => '192.0.2.9',
                '--json' => true,
            ],
        );

        return [$status, json_decode(Illuminate\Support\Facades\Artisan::output(), true)['rcode'] ?? null];
    };
    expect($update(['--add' => ['console 60 A 192.0.2.30'], '--free' => ['console']]))->toBe([0, 'NoError'])
        ->and($update(['--add' => ['console 60 A 192.0.2.31'], '--free' => ['console A']]))->toBe([1, 'YxRrset'])
        ->and($update(['--used' => ['nothing'], '--add' => ['x 60 A 192.0.2.31']]))->toBe([1, 'NxDomain'])
        ->and($update(['--remove' => ['console A 192.0.2.30']]))->toBe([0, 'NoError'])
        ->and($update(['--add' => ['console A']])[0])->toBe(2)->and($update([])[0])->toBe(2)
        ->and($update(['--key' => 'nobody', '--add' => ['x 60 A 192.0.2.1']])[0])->toBe(2)
        ->and($update(['--key' => '', '--add' => ['x 60 A 192.0.2.1']]))->toBe([1, 'Refused']);
    expect($register('deck', '192.0.2.20'))->toBe(Rcode::NoError)->and($register('bow', '192.0.2.21'))->toBe(Rcode::NoError);
    $this->actingAs($this->w->people['operator']);
    $this->get("/name/zone/$zone->id/service")->assertSee('ahead of the plan')->assertSee('deck');
    $this->get("/name/zone/$zone->id/drift")->assertOk()->assertSee("deck.$zone->name 600 A 192.0.2.20");
    $this->post("/name/zone/$zone->id/drift")->assertRedirect("/name/zone/$zone->id/drift");
    expect(Record::query()->where('zone_id', $zone->id)->where('owner', "deck.$zone->name")->exists())->toBeFalse();
    $one = \App\Acts\Name\TakeRunning::lineKey('+', "bow.$zone->name 600 A 192.0.2.21");
    $this->post("/name/zone/$zone->id/drift", ['take' => [$one]])->assertRedirect("/name/zone/$zone->id/drift");
    expect(Record::query()->where('zone_id', $zone->id)->where('owner', "bow.$zone->name")->exists())->toBeTrue()
        ->and(Record::query()->where('zone_id', $zone->id)->where('owner', "deck.$zone->name")->exists())->toBeFalse()
        ->and(ZoneService::of(($this->fresh)())->drift())->toBeTrue();
    // What waits to be shipped is no drift: taking over what runs must not take it away.
    $this->w->did(\App\Acts\Name\AddRecord::fromInput(['zone' => $zone->id, 'name' => 'waits', 'type' => 'A', 'data' => '192.0.2.25']));
    $this->get("/name/zone/$zone->id/drift")->assertOk()->assertDontSee('waits');
    $this->post("/name/zone/$zone->id/drift", ['all' => '1'])->assertRedirect("/name/zone/$zone->id/service");
    $taken = Record::query()->where('zone_id', $zone->id)->where('owner', "deck.$zone->name")->sole();
    expect(Record::query()->where('zone_id', $zone->id)->where('owner', "waits.$zone->name")->exists())->toBeTrue();
    expect($taken->renewed_at?->diffInSeconds(now()))->toBeLessThan(60)->and(ZoneService::of(($this->fresh)())->drift())
        ->toBeFalse()->and(($this->ship)('ns1')['steps'])->toHaveCount(1);
    $this->get("/name/zone/$zone->id/timeline?name=deck.".rtrim($zone->name, '.'))->assertOk()
        ->assertSee('renewed by its client')->assertSee('lapses unless');
    $this->get("/name/zone/$zone->id?filter=renewed:yes")->assertSee('deck')->assertSee('renewed');
    $stale = $this->w->acts()->rehearse($this->w->people['operator'], [new ServeZone($zone->id, lapseAfter: '0.02', lapseQuiet: '0')]);
    expect(array_map(fn ($n): string => $n->code, $stale->notes()))->not->toContain('lapse-at-once');
    $this->travel(2)->hours();
    $stale = $this->w->acts()->rehearse($this->w->people['operator'], [new ServeZone($zone->id, lapseAfter: '1', lapseQuiet: '0')]);
    $this->travelBack();
    expect(array_map(fn ($n): string => $n->message, $stale->notes()))->toContain('2 registered records would go at once');
    // Undone: the plan is shipped over what came meanwhile, and its serial stands in front again.
    $register('stern', '192.0.2.22');
    $this->post('/ship/server/'.$this->w->servers['ns1'], ['only' => [$zone->id], 'deep' => '1'])->assertRedirect();
    expect(
        $client->ask(Name::parse('stern', $zone->origin()), RecordType::of(1), Address::parse('192.0.2.9'), false)->message->rcode,
    )->toBe(Rcode::NxDomain)
        ->and($client->ask(Name::parse('deck', $zone->origin()), RecordType::of(1), Address::parse('192.0.2.9'), false)->message->answers)
        ->toHaveCount(1)->and(ZoneService::of(($this->fresh)())->drift())->toBeFalse();
});

it('takes a zone in by transfer from a server that lets it, to be looked at first', function (): void {
    $key = ($this->key)();
    $this->s->tell('ns2', 'keys', ['keys' => [['name' => $key->name, 'secret' => $key->secret]]]);
    $this->s->tell('ns2', 'views', ['views' => [['name' => 'v', 'clients' => ['0.0.0.0/0']]]]);
    $this->s->tell(
        'ns2',
        'apply',
        [
            'view' => 'v',
            'zone' => 'harbour.example.',
            'from' => null,
            'first' => true,
            'transfer' => ["key $key->name"],
            'add' => [
                'harbour.example. 300 SOA ns.harbour.example. h.harbour.example. 7 7200 900 1209600 300',
                'harbour.example. 300 NS ns.harbour.example.', 'ns.harbour.example. 300 A 192.0.2.40',
                'crane.harbour.example. 60 A 192.0.2.41',
            ],
        ],
    );
    $this->actingAs($this->w->people['operator']);
    $this->from('/name/take-in')
        ->post('/name/take-in', ['name' => 'harbour.example', 'server' => $this->w->servers['ns2'], 'view' => $this->w->view])
        ->assertRedirect('/name/take-in')->assertSessionHas('problem');
    expect(Zone::query()->where('name', 'harbour.example.')->exists())->toBeFalse();
    $this->get('/name/take-in')->assertOk();
    $response = $this->post(
        '/name/take-in',
        ['name' => 'harbour.example', 'server' => $this->w->servers['ns2'], 'view' => $this->w->view, 'key' => $key->id],
    );
    expect($response->headers->get('Location'))->toContain('/import/');
    $this->get($response->headers->get('Location').'?verdict=add')->assertOk()->assertSee('crane.harbour.example');
    $this->get('/name/keys')->assertOk()->assertSee($key->title())->assertDontSee($key->secret);
    $this->post("/name/keys/$key->id/secret")->assertRedirect('/name/keys');
    $this->get('/name/keys')->assertSee($key->secret);
    $this->get('/name/keys')->assertDontSee($key->secret);
});

it('checks keys', function (array $input, string $code): void {
    expect(($this->code)(MakeKey::fromInput($input)))->toBe($code);
})->with([[['name' => 'k.example', 'secret' => 'short'], 'bad-key'], [['name' => 'control'], 'bad-key'], [['name' => 'a..b'], 'bad-key']]);

it('ships how servers resolve, and computes and observes the path of a question', function (): void {
    $w = $this->w;
    $root = MakeServer::fromInput([
        'name' => 'root-'.bin2hex(random_bytes(3)), 'kind' => 'roots', 'endpoint' => $this->s->endpoint('root'),
        'control' => '127.0.0.1:'.$this->s->settings['root']['control'], 'token' => 'secret', 'address' => '198.51.100.4',
    ]);
    $w->did($root);
    $this->s->tell('root', 'views', ['views' => [['name' => 'all', 'clients' => ['0.0.0.0/0']]]]);
    $this->s->tell(
        'root',
        'apply',
        [
            'view' => 'all',
            'zone' => '.',
            'from' => null,
            'first' => true,
            'add' => [
                '. 300 SOA r.example. h.example. 1 7200 900 1209600 300', '. 300 NS r.root.example.',
                'r.root.example. 300 A 198.51.100.4', 'www.far.example. 300 A 203.0.113.9',
                rtrim($w->zone->name, '.').'. 300 NS ns1.quay.example.', 'ns1.quay.example. 300 A 192.0.2.53',
            ],
        ],
    );
    $hints = ". 300 NS r.root.example.\nr.root.example. 300 A 198.51.100.4\n";
    expect(($this->code)(new ChangeResolving([$w->servers['ns1']], 'on', 'nonsense')))->toBe('bad-address')
        ->and(($this->code)(new ChangeResolving([$w->servers['ns1']], 'on', '192.0.2.53')))->toBe('forwards-to-itself')
        ->and(($this->code)(new ChangeResolving([$w->servers['ns1']], hints: ". 300 NS a.example.\n")))
        ->toBe('bad-hints')->and(($this->code)(new ChangeResolving([$w->servers['dh1']], 'on')))->toBe('no-server')
        ->and(($this->notes)(new ChangeResolving([$w->servers['ns1']], 'off', '192.0.2.54')))->toBe(['recursion-off'])
        ->and(($this->notes)(new ChangeResolving([$w->servers['ns1']], 'on')))->toBe(['no-hints'])
        ->and(($this->notes)(new ChangeResolving([$w->servers['ns1']], 'on', '192.0.2.54', 'roots', $hints)))->toBe(['asks-outside']);
    $w->did(new ChangeResolving([$w->servers['ns1']], 'on', '192.0.2.54', 'stop'));
    $w->did(new ChangeResolving([$w->servers['ns2']], 'on', 'none', 'roots', $hints));
    ($this->ship)('ns1');
    ($this->ship)('ns2');
    expect(Resolving::lines((array) $this->s->tell('ns1', 'resolved')['resolving']))
        ->toContain('recursion on', 'when none answers: gives up')->and(($this->ship)('ns1')['steps'])->toBe([]);
    $client = Address::parse('192.0.2.9');
    $both = function (string $name, array $off) use ($client): array {
        $off = array_map(fn (string $n): string => $this->w->servers[$n], $off);

        return [
            ResolverPath::computed(Name::parse($name), ['192.0.2.53'], $client, $off)->verdict,
            ResolverPath::observed(Name::parse($name), ['192.0.2.53'], $client, $off)['verdict'],
        ];
    };
    expect($both('www.far.example.', []))->toBe([QueryPath::ROOTS, QueryPath::ROOTS])->and($both($w->zone->name, []))
        ->toBe([QueryPath::OWN, QueryPath::OWN])->and($both('www.far.example.', ['ns2']))
        ->toBe([QueryPath::NOTHING, QueryPath::NOTHING]);
    $w->did(new ChangeResolving([$w->servers['ns1']], fallback: 'roots', hints: $hints));
    ($this->ship)('ns1');
    expect($both('www.far.example.', ['ns2']))->toBe([QueryPath::ROOTS, QueryPath::ROOTS]);
    $steps = Descent::of(Name::parse($w->zone->name), RecordType::of(RecordType::SOA), $client);
    expect(array_column($steps, 'kind'))->toBe(['delegation', 'answer']);
    $this->actingAs($w->people['operator']);
    $this->get('/name/resolvers?name=www.far.example&resolvers=192.0.2.53')->assertOk()->assertSee('By the roots')
        ->assertSee('asks the roots');
    $this->post('/name/resolvers', ['name' => 'www.far.example', 'resolvers' => '192.0.2.53', 'client' => '192.0.2.9'])
        ->assertOk()->assertSee('Observed: By the roots');
    $this->get("/name/resolvers/{$w->servers['ns1']}/hints?prime=1")->assertOk()->assertSee('The same');
    $this->get("/name/resolvers/{$w->servers['ns1']}/hints.zone")->assertOk()
        ->assertSee('r.root.example. 3600000 IN A 198.51.100.4', false);
    $this->get('/name/lookup?q=www.far.example&server=trace')->assertOk()->assertSee('answer, with authority');
    $this->get('/name/lookup?q=www.far.example&server=all&rd=1')->assertOk()->assertSee('203.0.113.9');
});

it('tests what was changed, past every cache, and there and back', function (): void {
    $w = $this->w;
    ($this->ship)('ns1');
    ($this->ship)('ns2');
    $w->did(AddRecord::fromInput(['zone' => $w->zone->id, 'name' => 'till', 'type' => 'A', 'data' => '192.0.2.7']), $w->people['operator']);
    $w->did(
        AddRecord::fromInput(['zone' => $w->reverse->id, 'name' => '7', 'type' => 'PTR', 'data' => "till.{$w->zone->name}"]),
        $w->people['operator'],
    );
    $rows = fn (): array => array_values(
        array_filter(\App\Live\ChangedSets::of(null, $this->w->people['operator']->id), fn (array $r): bool => $r['type'] === 'A'),
    );
    expect($rows()[0]['waits'])->toBeTrue()->and(array_column($rows()[0]['answers'], 'state'))->toBe(['wrong', 'wrong']);
    // While it waits no end is told, and none while a server still gives what was before.
    expect($rows()[0]['until'])->toBeNull();
    ($this->ship)('ns1');
    expect(array_column($rows()[0]['answers'], 'state'))->toBe(['right', 'right']);
    // A name that is new: caches may know for the negative TTL that it is not there.
    expect($rows()[0]['until']?->isFuture())->toBeTrue();
    App\Models\ZoneServer::query()->where('zone_id', $w->zone->id)->where('part', 'secondary')->toBase()->update(['shipped_serial' => 1]);
    expect($rows()[0]['until'])->toBeNull();
    $this->actingAs($w->people['operator'])->get('/name/test?mine=1')->assertReads('a server still gives them');
    $this->actingAs($w->people['operator'])->get('/name/test?mine=1')->assertOk()->assertSee('till.');
    $this->get('/name/lookup?server=back&q=till.'.rtrim($w->zone->name, '.').'&client=192.0.2.9')->assertOk()
        ->assertSee('There and back agree');
    $this->get('/name/lookup?server=back&q=192.0.2.7')->assertOk()->assertSee('There and back agree');
    $this->get('/name/lookup?server=back&q=nothing.'.rtrim($w->zone->name, '.'))->assertSee('No way there');
});
