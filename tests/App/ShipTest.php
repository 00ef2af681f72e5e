<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeServer;
use App\Acts\Lease\SetOption;
use App\Acts\Name\AddRecord;
use App\Acts\Name\ChangeZone;
use App\Acts\Plan\PlaceHost;
use App\Links\DifferenceState;
use App\Links\Links;
use App\Links\Names\DnsClient;
use App\Live\Exchange;
use App\Models\ScopeServer;
use App\Models\Server;
use App\Models\ShipmentState;
use App\Models\ZoneServer;
use App\Shipping\Shipping;
use HarborPost\Core\Dhcp\Client\ClientSketch;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Net\MacAddress;
use Tests\Standins;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    $this->s = new Standins(['ns1' => 'dns', 'ns2' => 'dns', 'dh1' => 'dhcp', 'dh2' => 'dhcp']);
    foreach ($this->s->settings as $name => $own) {
        $this->w->did(new ChangeServer($this->w->servers[$name], '127.0.0.1:'.$own['port'], '127.0.0.1:'.$own['control'], 'secret'));
    }
    $this->server = fn (string $name): Server => Server::query()->findOrFail($this->w->servers[$name]);
    $this->ship = fn (string $name, bool $deep = false): array => app(Shipping::class)->ship(null, ($this->server)($name), null, $deep);
    $this->ask = fn (string $name, string $type = 'A'): array => array_map(
        fn ($r): string => $r->data->text(),
        (new DnsClient('ns1', $this->s->endpoint('ns1')))->ask(Name::parse($name), RecordType::parse($type), null, false)->message->answers,
    );
    config(['harbor.patience' => 1.0]);
});

it('brings a placed host to a packet that answers for it', function (): void {
    $w = $this->w;
    expect(($this->ship)('ns1')['state'])->toBe(ShipmentState::Done)->and(($this->ship)('ns2')['state'])->toBe(ShipmentState::Done);
    $serial = $w->zone->refresh()->serial;
    $w->did(
        PlaceHost::fromInput([
            'prefix' => $w->subnet->id, 'name' => 'till-1', 'zone' => $w->zone->id, 'mac' => '00:00:5e:00:53:01', 'ptr' => '1',
            'reserve' => '1',
        ]),
    );
    expect(($this->ask)("till-1.{$w->zone->name}"))->toBe([]);
    $result = ($this->ship)('ns1');
    expect($result['state'])->toBe(ShipmentState::Done)->and(count($result['steps']))->toBe(2)
        ->and(($this->ask)("till-1.{$w->zone->name}"))->toBe(['192.0.2.2'])
        ->and(($this->ask)('2.2.0.192.in-addr.arpa.', 'PTR'))->toBe(["till-1.{$w->zone->name}"])
        ->and($w->zone->refresh()->serial)->toBe($serial + 1)
        ->and(ZoneServer::query()->where('zone_id', $w->zone->id)->where('server_id', $w->servers['ns1'])->sole()->verified_at)
        ->not->toBeNull();
    // The second server is brought to the same serial: it is raised once.
    expect(($this->ship)('ns2')['state'])->toBe(ShipmentState::Done)->and($w->zone->refresh()->serial)->toBe($serial + 1)
        ->and(($this->ship)('ns2')['steps'])->toBe([]);
    expect(($this->ship)('dh1')['state'])->toBe(ShipmentState::Done);
    $exchange = Exchange::run(
        $w->scope,
        ($this->server)('dh1'),
        new ClientSketch(MacAddress::parse('00:00:5e:00:53:01'), 'till-1', [1, 3, 6, 15]),
    );
    expect(array_column($exchange->steps, 'type'))->toBe(['DISCOVER', 'OFFER', 'REQUEST', 'ACK', 'RELEASE'])
        ->and((string) $exchange->steps[3]['packet']->yourAddress)->toBe('192.0.2.2')
        ->and(OptionTable::meaning(3, $exchange->steps[3]['packet']->options[3]))->toBe('192.0.2.1');
});

it('tells of a server with very many scopes what the last look found', function (): void {
    $w = $this->w;
    $standing = fn (): array => App\Shipping\Standing::of([$w->servers['dh1']])[$w->servers['dh1']];
    expect($standing())->toBe(['holds' => 1, 'inEffect' => 0, 'drifted' => 0, 'seen' => null]);
    // Three hundred more, as rows: what each is sent is not the matter here.
    $like = (array) Illuminate\Support\Facades\DB::table('scopes')->where('id', $w->scope->id)->first();
    $net = (array) Illuminate\Support\Facades\DB::table('prefixes')->where('id', $w->subnet->id)->first();
    foreach (range(1, 300) as $i) {
        $id = fn (string $of): string => sprintf('01TEST%s%04d%s', $of, $i, strtoupper(substr(md5($w->scope->id), 0, 15)));
        $nets[] = ['id' => $id('P'), 'first' => pack('N', 0x0A000000 + ($i << 8)), 'length' => 24] + $net;
        $scopes[] = ['id' => $id('S'), 'prefix_id' => $id('P')] + $like;
        $placed[] = ['id' => $id('L'), 'scope_id' => $id('S'), 'server_id' => $w->servers['dh1']];
    }
    Illuminate\Support\Facades\DB::table('prefixes')->insert($nets);
    Illuminate\Support\Facades\DB::table('scopes')->insert($scopes);
    Illuminate\Support\Facades\DB::table('scope_servers')->insert($placed);
    // Nothing was looked at: then by the last shipment.
    expect($standing())->toBe(['holds' => 301, 'inEffect' => 0, 'drifted' => 0, 'seen' => null]);
    expect(app(Shipping::class)->ship(null, ($this->server)('dh1'), [$w->scope->id])['state'])->toBe(ShipmentState::Done)
        ->and($standing()['inEffect'])->toBe(1);
    app(App\Shipping\DriftWatch::class)->look(($this->server)('dh1'));
    expect($standing()['inEffect'])->toBe(1)->and($standing()['seen'])->not->toBeNull();
    $w->did(SetOption::fromInput(['scope' => $w->scope->id, 'code' => '42', 'value' => '192.0.2.5']));
    app(App\Shipping\DriftWatch::class)->look(($this->server)('dh1'));
    expect($standing()['inEffect'])->toBe(0);
    $this->actingAs($w->people['operator'])->get('/ship?filter='.($this->server)('dh1')->name)->assertOk()->assertReads('0 of 301')
        ->assertReads('as of');
});

it('brings a few objects to all their servers at once, each proved, in their order', function (): void {
    $w = $this->w;
    $operator = $w->people['operator'];
    $only = [$w->scope->id, $w->zone->id];
    $page = '/ship/together?'.http_build_query(['only' => $only]);
    $stops = fn (): array => App\Shipping\Together::of($only)->stops;
    expect(array_map(fn (array $s): array => [explode('-', $s['server']->name)[0], count($s['work'])], $stops()))
        ->toEqualCanonicalizing([['ns1', 1], ['ns2', 1], ['dh1', 1], ['dh2', 1]]);
    $this->actingAs($operator)->get($page)->assertOk()->assertReads('Ship and verify')->assertDontSee('compared just now')
        ->assertSee('name="saw['.$w->servers['ns1'].']"', false)->assertDontSee('name="saw['.$w->servers['ns2'].']"', false);
    // Who reads may look and not ship.
    $this->actingAs($w->people['reader'])->get($page)->assertOk()->assertDontSee('Ship and verify');
    $this->post('/ship/together', ['only' => $only])->assertForbidden();
    // What is not what was shown is not shipped; the others are.
    $this->actingAs($operator)->post('/ship/together', ['only' => $only, 'saw' => [$w->servers['dh1'] => str_repeat('0', 64)]])
        ->assertRedirect();
    $left = array_values(array_filter($stops(), fn (array $s): bool => $s['work'] !== []));
    expect($left)->toHaveCount(1)->and($left[0]['server']->id)->toBe($w->servers['dh1'])
        ->and($left[0]['last']->steps[0]['message'])->toContain('no longer what was shown');
    $this->get($page)->assertReads('no longer what was shown')->assertDontSee('compared just now');
    $this->post('/ship/together', ['only' => $only])->assertRedirect($page);
    expect(App\Shipping\Together::of($only)->isDone())->toBeTrue();
    $this->get($page)->assertReads('compared just now')->assertSee("/lease/exchange?scope={$w->scope->id}", false);
    // A server that is held, or away, is said and left out.
    $w->did(App\Acts\Name\AddRecord::fromInput(['zone' => $w->zone->id, 'name' => 'late', 'type' => 'A', 'data' => '192.0.2.9']));
    $w->did(new ChangeServer($w->servers['ns1'], held: '1'));
    $this->s->stop('ns2');
    $together = App\Shipping\Together::of($only);
    expect($together->isDone())->toBeFalse()->and($together->ready())->toBe([]);
    $this->get($page)->assertReads('held: nothing is shipped to it')->assertReads('cannot be reached')->assertDontSee('Ship and verify');
    $this->get('/ship/together')->assertOk()->assertReads('Nothing to ship');
});

it('asks a server from the console', function (): void {
    ($this->ship)('ns1');
    $this->w->did(AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => 'asked', 'type' => 'A', 'data' => '192.0.2.9']));
    $ask = function (array $of): array {
        $status = \Illuminate\Support\Facades\Artisan::call('dns:ask', $of + ['--json' => true]);

        return [$status, json_decode(\Illuminate\Support\Facades\Artisan::output(), true)];
    };
    $name = 'asked.'.$this->w->zone->name;
    [$status, $none] = $ask(['name' => $name, '--server' => ($this->server)('ns1')->name]);
    expect($status)->toBe(1)->and($none)->toMatchArray(['rcode' => 'NxDomain', 'answer' => [], 'over' => 'UDP'])
        ->and($none['authority'][0]['type'])->toBe('SOA');
    ($this->ship)('ns1');
    [$status, $there] = $ask(['name' => $name, 'type' => 'a', '--server' => $this->s->endpoint('ns1'), '--tcp' => true, '--rd' => '1']);
    expect($status)->toBe(0)->and($there)
        ->toMatchArray([
            'name' => $name, 'type' => 'A', 'rcode' => 'NoError', 'over' => 'TCP',
            'answer' => [['name' => $name, 'ttl' => 3600, 'type' => 'A', 'data' => '192.0.2.9']],
        ])
        ->and($there['flags'])->toContain('AA', 'RD');
    $this->s->tell('ns1', 'mode', ['mode' => 'silent']);
    expect($ask(['name' => '192.0.2.9', '--server' => ($this->server)('ns1')->name])[0])->toBe(1);
});

it('sends only what changed', function (): void {
    ($this->ship)('ns1');
    $this->w->did(AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => 'x', 'type' => 'A', 'data' => '192.0.2.9']));
    $differences = array_values(array_filter(Links::to(($this->server)('ns1'))->compare(), fn ($d): bool => $d->needsShipping()));
    expect($differences)->toHaveCount(1)->and($differences[0]->added)
        ->toBe(["x.{$this->w->zone->name} 3600 A 192.0.2.9"])->and($differences[0]->removed)->toBe([]);
});

it('raises the serial for other timers and stops answering a silenced zone', function (): void {
    ($this->ship)('ns1');
    $this->w->did(new ChangeZone($this->w->zone->id, refresh: '3600'));
    ($this->ship)('ns1');
    expect(($this->ask)($this->w->zone->name, 'SOA')[0])->toContain(' 3600 900 ');
    $this->w->did(new ChangeZone($this->w->zone->id, silenced: '1'));
    expect(($this->ship)('ns1')['state'])->toBe(ShipmentState::Done)->and(($this->ask)($this->w->zone->name, 'SOA'))->toBe([]);
});

it('finds drift by reading the whole zone and puts it right', function (): void {
    ($this->ship)('ns1');
    $zone = $this->w->zone->refresh();
    $this->s->tell(
        'ns1',
        'apply',
        [
            'view' => $zone->view->name, 'zone' => $zone->name, 'from' => $zone->serial, 'remove' => [],
            'add' => ["intruder.{$zone->name} 60 A 192.0.2.66"],
        ],
    );
    expect(array_filter(Links::to(($this->server)('ns1'))->compare(), fn ($d): bool => $d->needsShipping()))->toBe([]);
    $found = array_values(array_filter(Links::to(($this->server)('ns1'))->compare(true), fn ($d): bool => $d->needsShipping()));
    expect($found[0]->removed)->toBe(["intruder.{$zone->name} 60 A 192.0.2.66"]);
    expect(($this->ship)('ns1', true)['state'])->toBe(ShipmentState::Done)->and(($this->ask)("intruder.{$zone->name}"))->toBe([])
        ->and($zone->refresh()->serial)->toBeGreaterThan(0);
});

it('goes past a serial that is ahead', function (): void {
    ($this->ship)('ns1');
    $zone = $this->w->zone->refresh();
    $soa = fn (int $serial): string => "$zone->name 3600 SOA ".$zone->soa(HarborPost\Core\Dns\Serial::of($serial))->text();
    $this->s->tell(
        'ns1',
        'apply',
        [
            'view' => $zone->view->name, 'zone' => $zone->name, 'from' => $zone->serial, 'remove' => [$soa($zone->serial)],
            'add' => [$soa($zone->serial + 50)],
        ],
    );
    expect(collect(Links::to(($this->server)('ns1'))->compare())->firstWhere('id', $zone->id)->state)->toBe(DifferenceState::Ahead);
    expect(($this->ship)('ns1')['state'])->toBe(ShipmentState::Done)->and($zone->refresh()->serial)->toBeGreaterThan(2026000000);
});

it('says what did not answer and goes on where it stopped', function (): void {
    $this->s->tell('ns1', 'mode', ['mode' => 'silent']);
    $result = ($this->ship)('ns1');
    expect($result['state'])->toBe(ShipmentState::Failed)->and($result['steps'][0]['message'])->toContain('did not answer')
        ->toContain('Nothing was shipped');
    $this->s->stop('ns1');
    expect(($this->ship)('ns1')['steps'][0]['message'])->toContain('cannot be reached');
    $this->s->start('ns1');
    expect(($this->ship)('ns1')['state'])->toBe(ShipmentState::Done)->and(($this->ship)('ns1')['steps'])->toBe([]);
});

it('does not believe a server that lies', function (): void {
    ($this->ship)('ns1');
    $this->w->did(AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => 'x', 'type' => 'A', 'data' => '192.0.2.9']));
    $this->s->tell('ns1', 'mode', ['mode' => 'wrong']);
    $result = ($this->ship)('ns1');
    expect($result['state'])->toBe(ShipmentState::Failed)->and($result['steps'][0]['message'])
        ->toContain('is meant to be 192.0.2.9, it answers 192.0.2.66')
        ->and(ZoneServer::query()->where('zone_id', $this->w->zone->id)->where('server_id', $this->w->servers['ns1'])->sole()->verified_at)
        ->toBeNull();
});

it('ships one at a time to a server, whoever starts it', function (): void {
    config(['harbor.ship_wait' => 0]);
    $id = $this->w->servers['ns1'];
    config(['database.connections.other' => config('database.connections.'.config('database.default'))]);
    $other = DB::connection('other');
    expect((int) $other->scalar('select get_lock(?, 0)', ["ship:$id"]))->toBe(1);
    $run = app(Shipping::class)->ship(null, Server::query()->findOrFail($id));
    expect($run['state'])->toBe(ShipmentState::Failed)->and($run['steps'][0]['message'])
        ->toContain('Another shipment to the server is under way')
        ->and(ZoneServer::query()->where('server_id', $id)->whereNotNull('shipped_serial')->exists())->toBeFalse();
    // Its process ends, in whatever way: the server is free.
    $other->disconnect();
    $run = app(Shipping::class)->ship(null, Server::query()->findOrFail($id));
    expect($run['state'])->toBe(ShipmentState::Done)->and((int) DB::scalar('select is_free_lock(?)', ["ship:$id"]))->toBe(1);
});

it('ships nothing to a held server', function (): void {
    $this->w->did(new ChangeServer($this->w->servers['ns1'], held: '1'));
    expect(($this->ship)('ns1')['state'])->toBe(ShipmentState::Failed)->and(($this->ask)($this->w->zone->name, 'SOA'))->toBe([]);
});

it('ships scopes, proves options and sees what was changed there', function (): void {
    expect(($this->ship)('dh1')['state'])->toBe(ShipmentState::Done)
        ->and(ScopeServer::query()->where('server_id', $this->w->servers['dh1'])->sole()->verified_at)->not->toBeNull();
    $this->w->did(new SetOption($this->w->scope->id, 42, '192.0.2.123'));
    $difference = Links::to(($this->server)('dh1'))->compare()[0];
    expect($difference->added)->toBe(['option 42 NTP servers: 192.0.2.123'])->and($difference->removed)->toBe([]);
    ($this->ship)('dh1');
    expect(Links::to(($this->server)('dh1'))->compare()[0]->state)->toBe(DifferenceState::Same);
});

it('ends an exchange with silence in words, within its time', function (): void {
    $exchange = Exchange::run($this->w->scope, ($this->server)('dh2'), new ClientSketch(MacAddress::parse('00:00:5e:00:53:01'), '', [1]));
    expect($exchange->problem)->toContain('did not answer')->and(array_column($exchange->steps, 'type'))->toBe(['DISCOVER']);
});

it('counts what is in effect by the same rule as the chain of each zone and scope', function (): void {
    $of = fn (string $name): array => \App\Shipping\Standing::of(array_values($this->w->servers))[$this->w->servers[$name]];
    $chain = fn () => \App\Shipping\Chain::ofSet(
        $this->w->zone->refresh()->load('placements'),
        \App\Queries\ZonePage::countWaiting($this->w->zone) > 0,
    );
    expect($of('ns1'))->toBe(['holds' => 2, 'inEffect' => 0, 'drifted' => 0, 'seen' => null])->and($chain()->words)
        ->toBe('saved, not shipped');
    ($this->ship)('ns1');
    expect($of('ns1'))->toBe(['holds' => 2, 'inEffect' => 2, 'drifted' => 0, 'seen' => null])->and($of('ns2'))
        ->toBe(['holds' => 2, 'inEffect' => 0, 'drifted' => 0, 'seen' => null])->and($chain()->words)->toBe('shipped to 1 of 2');
    ($this->ship)('ns2');
    expect($of('ns2'))->toBe(['holds' => 2, 'inEffect' => 2, 'drifted' => 0, 'seen' => null])->and($chain()->words)->toBe('in effect');
    // A change that waits, then one that reached the first server only: the second lags, and both pages say so.
    $this->w->did(AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => 'lag', 'type' => 'A', 'data' => '192.0.2.77']));
    expect($of('ns1')['inEffect'])->toBe(1)->and($of('ns2')['inEffect'])->toBe(1)->and($chain()->inEffect)->toBeFalse();
    $this->s->tell('ns2', 'mode', ['mode' => 'silent']);
    ($this->ship)('ns1');
    $this->s->tell('ns2', 'mode', ['mode' => 'normal']);
    expect($of('ns1')['inEffect'])->toBe(2)->and($of('ns2')['inEffect'])->toBe(1)->and($chain()->words)->toBe('shipped to 1 of 2');
    ($this->ship)('dh1');
    expect($of('dh1'))->toBe(['holds' => 1, 'inEffect' => 1, 'drifted' => 0, 'seen' => null])->and($of('dh2'))
        ->toBe(['holds' => 1, 'inEffect' => 0, 'drifted' => 0, 'seen' => null]);
    $this->w->did(new SetOption($this->w->scope->id, 6, '192.0.2.54'));
    expect($of('dh1'))->toBe(['holds' => 1, 'inEffect' => 0, 'drifted' => 0, 'seen' => null]);
});

it('takes a whole zone again from its start when a part was lost', function (): void {
    $part = [
        'view' => 'inside', 'zone' => 'parts.example.', 'from' => null, 'first' => false, 'more' => false,
        'add' => ['x.parts.example. 60 A 192.0.2.1'],
    ];
    expect(fn () => $this->s->tell('ns1', 'apply', $part))->toThrow(\App\Links\Unanswered::class, 'first part is not here');
});

it('takes what somebody changed on a DHCP server into the plan, difference by difference', function (): void {
    $w = $this->w;
    $w->did(new SetOption($w->scope->id, 42, '192.0.2.123'));
    $w->did(
        App\Acts\Lease\AddReservation::fromInput([
            'scope' => $w->scope->id, 'address' => '192.0.2.10', 'mac' => '02:00:5e:00:00:01', 'name' => 'kept',
        ]),
    );
    $w->did(
        App\Acts\Lease\AddReservation::fromInput([
            'scope' => $w->scope->id, 'address' => '192.0.2.11', 'mac' => '02:00:5e:00:00:02', 'name' => 'gone there',
        ]),
    );
    ($this->ship)('dh1');
    $form = App\Links\ScopeForm::of(
        $w->scope->refresh()->load(['ranges', 'exclusions', 'reservations', 'optionValues', 'prefix']),
        ($this->server)('dh1'),
    );
    $form['lease_time'] = 7200;
    $form['options'][42] = bin2hex("\xc0\x00\x02\x7c");
    $form['options'][66] = bin2hex('boot.example');
    $form['exclusions'][] = '192.0.2.62-192.0.2.63';
    $form['reservations'] = [
        ['mac' => '02:00:5e:00:00:01', 'address' => '192.0.2.12', 'name' => 'kept'],
        ['mac' => '02:00:5e:00:00:03', 'address' => '192.0.2.13', 'name' => 'new there'],
    ];
    $this->s->tell('dh1', 'put', ['scope' => $form]);
    $page = "/lease/scope/{$w->scope->id}/drift/{$w->servers['dh1']}";
    $this->actingAs($w->people['operator'])->get("/ship/server/{$w->servers['dh1']}")->assertOk()->assertSee($page);
    $this->get($page)->assertOk()->assertSee('option 42')->assertSee('192.0.2.124')->assertSee('lease time')
        ->assertSee('2 h')->assertSee('boot.example')->assertSee('reservation for 02:00:5e:00:00:03')
        ->assertSee('192.0.2.62-192.0.2.63');
    $this->actingAs($w->people['reader'])->post($page, ['take' => ['time']])->assertForbidden();
    $this->actingAs($w->people['operator'])->post($page, ['take' => []])->assertRedirect($page)->assertSessionHas('bad');
    $this->post($page, ['take' => ['time', 'option:42', 'client:02:00:5e:00:00:01']])->assertRedirect($page)->assertSessionHas('done');
    $values = fn (int $code): ?array => App\Models\OptionValue::query()->where('layer_id', $w->scope->id)
        ->where('code', $code)->first()?->values;
    $held = fn (): array => App\Models\Reservation::query()->where('scope_id', $w->scope->id)->orderBy('mac')->get()
        ->mapWithKeys(fn ($r): array => [(string) $r->mac => (string) $r->address])->all();
    expect($w->scope->refresh()->lease_time)->toBe(7200)->and($values(42))->toBe(['192.0.2.124'])->and($values(66))
        ->toBeNull()->and($w->scope->exclusions()->count())->toBe(0)
        ->and($held())->toBe(['02:00:5e:00:00:01' => '192.0.2.12', '02:00:5e:00:00:02' => '192.0.2.11']);
    // The rest is still a difference; taken as well, the server runs what is meant.
    $this->get($page)->assertSee('boot.example')->assertDontSee('lease time');
    $this->post($page, ['take' => ['option:66', 'exclusions', 'client:02:00:5e:00:00:02', 'client:02:00:5e:00:00:03']])
        ->assertSessionHas('done');
    expect($values(66))->toBe(['boot.example'])->and($held())
        ->toBe(['02:00:5e:00:00:01' => '192.0.2.12', '02:00:5e:00:00:03' => '192.0.2.13']);
    // It runs as meant now; that it does is proved by the next shipment.
    $left = Links::to(($this->server)('dh1'))->compare()[0];
    expect($left->added)->toBe([])->and($left->removed)->toBe([])->and($left->drifted)->toBeFalse()->and($left->message)
        ->toContain('nothing has proved it')
        ->and(($this->ship)('dh1')['state'])->toBe(ShipmentState::Done)->and(Links::to(($this->server)('dh1'))->compare()[0]->state)
        ->toBe(DifferenceState::Same);
    $this->get($page)->assertSee('runs the scope as planned');
    $this->s->tell('dh1', 'mode', ['mode' => 'silent']);
    $this->get($page)->assertOk()->assertSee('could not be read');
});

it('proves what an ended shipment wrote and did not prove', function (): void {
    ($this->ship)('dh1');
    $this->w->did(new SetOption($this->w->scope->id, 42, '192.0.2.123'));
    // The worker ends after the server took the scope and before it was asked for it.
    $link = Links::to(($this->server)('dh1'));
    $link->apply('scope', $this->w->scope->id);
    $left = $link->compare()[0];
    expect($left->state)->toBe(DifferenceState::Differs)->and($left->added)->toBe([])->and($left->removed)->toBe([])
        ->and($left->drifted)->toBeFalse()->and($left->message)->toContain('nothing has proved it');
    $result = ($this->ship)('dh1');
    expect($result['steps'])->toHaveCount(1)->and($result['steps'][0]['message'])->toContain('read back and equal')
        ->and($link->compare()[0]->state)->toBe(DifferenceState::Same);
});

it('proves a zone that an ended shipment wrote and did not prove', function (): void {
    ($this->ship)('ns1');
    $zone = $this->w->zone;
    $this->w->did(AddRecord::fromInput(['zone' => $zone->id, 'name' => 'late', 'type' => 'A', 'data' => '192.0.2.9']));
    $this->w->did(new App\Acts\Ship\StampZones([$zone->id => null]));
    $serial = $zone->refresh()->serial;
    Links::to(($this->server)('ns1'))->apply('zone', $zone->id);
    $of = fn (): App\Links\Difference => collect(Links::to(($this->server)('ns1'))->compare())->firstWhere('id', $zone->id);
    expect($of()->state)->toBe(DifferenceState::Differs)->and($of()->drifted)->toBeFalse()->and($of()->message)
        ->toContain('nothing has proved it');
    $result = ($this->ship)('ns1');
    expect($result['state'])->toBe(ShipmentState::Done)->and($zone->refresh()->serial)->toBe($serial)->and($of()->state)
        ->toBe(DifferenceState::Same)->and(($this->ask)("late.$zone->name"))->toBe(['192.0.2.9']);
});
