<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeServer;
use App\Acts\Directory\MakeToken;
use App\Acts\Lease\ChangePair;
use App\Acts\Lease\ChangeScope;
use App\Acts\Lease\MakePair;
use App\Acts\Lease\MakeScopes;
use App\Acts\Lease\PairScopes;
use App\Acts\Lease\PasteReservations;
use App\Acts\Lease\RemovePair;
use App\Acts\Lease\SetShares;
use App\Acts\Plan\ChangePrefix;
use App\Links\DifferenceState;
use App\Links\Links;
use App\Live\PairWatch;
use App\Models\NoticeKind;
use App\Models\NoticeRule;
use App\Models\Pair;
use App\Models\Person;
use App\Models\Reservation;
use App\Models\Scope;
use App\Models\Server;
use App\Models\ShipmentState;
use App\Queries\Conditions;
use App\Queries\Coverage;
use App\Queries\Invariants;
use App\Queries\PairList;
use App\Queries\ServedClient;
use App\Shipping\Shipping;
use HarborPost\Core\Dhcp\Client\ClientSketch;
use HarborPost\Core\Exchange\Pair\LoadBalance;
use HarborPost\Core\Exchange\Pair\PairState;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Support\Facades\Artisan;
use Tests\Standins;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    $this->id = '01J0000000000000000000PA1R';
    $this->make = fn (array $more = []): \App\Acts\Engine\Outcome => $this->w->did(MakePair::fromInput($more + [
        'name' => 'Quays', 'id' => $this->id, 'first' => $this->w->servers['dh1'], 'second' => $this->w->servers['dh2'],
    ]));
    $this->join = fn (): \App\Acts\Engine\Outcome => $this->w->did(new PairScopes([$this->w->scope->id], $this->id));
    $this->pair = fn (): Pair => Pair::query()->with(['first', 'second'])->findOrFail($this->id);
});

it('makes a pair with a key of its own, and brings a scope of shares into it as a whole', function (): void {
    ($this->make)();
    $pair = ($this->pair)();
    expect(strlen((string) base64_decode($pair->keys[0]['secret'])))->toBe(32)->and($pair->lead)->toBe(3600)
        ->and(DB::table('pairs')->where('id', $pair->id)->value('keys'))->not->toContain($pair->keys[0]['secret']);
    ($this->join)();
    $scope = $this->w->scope->refresh();
    expect($scope->pair_id)->toBe($pair->id)
        ->and($scope->ranges()->whereNotNull('server_id')->count())->toBe(0)
        ->and($scope->placements()->pluck('server_id')->sort()->values()->all())
        ->toBe(collect([$pair->first_id, $pair->second_id])->sort()->values()->all())
        ->and(Coverage::of([$scope->load(['ranges', 'exclusions', 'placements.server', 'pair.first', 'pair.second'])])[$scope->id]['how'])
        ->toBe('pair');
    foreach (Invariants::all() as $sentence => $found) {
        expect($found['count'])->toBe(0, $sentence);
    }
    // Out again: shares, so that nothing is leased by both.
    $this->w->did(new PairScopes([$scope->id]));
    expect($scope->refresh()->pair_id)->toBeNull()->and($scope->ranges()->whereNull('server_id')->count())->toBe(0);
});

it('refuses what would break a pair', function (string $class, array $input, string $code): void {
    ($this->make)();
    $input = array_map(fn ($v) => match ($v) {
        'SCOPE' => $this->w->scope->id, ['SCOPE'] => [$this->w->scope->id], 'PAIR' => $this->id, 'DH1' => $this->w->servers['dh1'],
        ['DH1'] => [$this->w->servers['dh1']], 'NS1' => $this->w->servers['ns1'],
        ['SHARE'] => ['192.0.2.60-192.0.2.90@'.Server::query()->findOrFail($this->w->servers['dh1'])->name], default => $v,
    }, $input);
    if (in_array($code, ['in-pair', 'pair-in-use', 'pair-same'], true)) {
        ($this->join)();
    }
    expect($this->w->refusal($class, $input))->toBe($code);
})->with([
    [MakePair::class, ['name' => 'Quays', 'id' => '01J0000000000000000000PA2R', 'first' => 'DH1', 'second' => 'DH1'], 'name-taken'],
    [MakePair::class, ['name' => 'X', 'id' => '01J0000000000000000000PA2R', 'first' => 'DH1', 'second' => 'DH1'], 'one-server'],
    [MakePair::class, ['name' => 'X', 'id' => '01J0000000000000000000PA2R', 'first' => 'DH1', 'second' => 'NS1'], 'no-server'],
    [ChangePair::class, ['pair' => 'PAIR', 'lead' => '10'], 'bad-lead'],
    [ChangePair::class, ['pair' => 'PAIR', 'lead' => 'soon'], 'bad-lead'],
    [RemovePair::class, ['pair' => 'PAIR'], 'pair-in-use'],
    [SetShares::class, ['scopes' => ['SCOPE']], 'in-pair'],
    [ChangeScope::class, ['scope' => 'SCOPE', 'servers' => ['DH1']], 'in-pair'],
    [ChangeScope::class, ['scope' => 'SCOPE', 'ranges' => ['SHARE']], 'in-pair'],
    [PairScopes::class, ['scopes' => ['SCOPE'], 'pair' => 'PAIR'], 'pair-same'],
]);

it('ships a pair and its scope to both, proves them, and tells what they are in', function (): void {
    config(['harbor.patience' => 1.0]);
    $s = new Standins(['dh1' => 'dhcp', 'dh2' => 'dhcp']);
    foreach ($s->settings as $name => $own) {
        $this->w->did(new ChangeServer($this->w->servers[$name], '127.0.0.1:'.$own['port'], '127.0.0.1:'.$own['control'], 'secret'));
    }
    ($this->make)(['lead' => '10m']);
    ($this->join)();
    $ship = fn (string $name): array => app(Shipping::class)->ship(null, Server::query()->findOrFail($this->w->servers[$name]));
    $first = $ship('dh1');
    expect($first['state'])->toBe(ShipmentState::Done)->and(array_column($first['steps'], 'message'))->toHaveCount(2)
        ->and($first['steps'][0]['message'])->toContain('the server is in RECOVER')
        ->and($first['steps'][1]['message'])->toContain('nobody new is given an address');
    expect($ship('dh2')['state'])->toBe(ShipmentState::Done);
    $watch = app(PairWatch::class);
    for ($i = 0; $i < 80; $i++) {
        $states = array_map(fn (array $x): ?string => $x['told']['state'] ?? null, $watch->read([($this->pair)()]));
        if ($states === ['NORMAL', 'NORMAL']) {
            break;
        }
        usleep(100_000);
    }
    expect($states)->toBe(['NORMAL', 'NORMAL']);
    $seen = PairList::seen([($this->pair)()])[$this->id];
    expect($seen[$this->w->servers['dh1']]['state'])->toBe(PairState::Normal)->and($seen[$this->w->servers['dh2']]['proved'])->toBeTrue();
    // Nothing differs; and the secret is not told by the server.
    foreach (['dh1', 'dh2'] as $name) {
        $differences = Links::to(Server::query()->findOrFail($this->w->servers[$name]))->compare();
        expect(array_column($differences, 'state'))->each->toBe(DifferenceState::Same);
    }
    expect(json_encode($s->tell('dh1', 'pairs')))->not->toContain(($this->pair)()->keys[0]['secret']);
    // By packets: an address is offered, taken and given back by each of the two.
    expect(Links::to(Server::query()->findOrFail($this->w->servers['dh2']))->verify('scope', $this->w->scope->id))
        ->toContain('offered, taken and given back');
    expect(Artisan::call('pair:state', ['--json' => true]))->toBe(0)->and(json_decode(Artisan::output(), true)[0]['state'])->toBe('NORMAL');
    // One is lost: it is told, and after a person says that it is off the other takes over.
    $s->kill('dh2');
    for ($i = 0; $i < 80 && $s->tell('dh1', 'pairs')['states'][0]['state'] !== 'COMMUNICATIONS-INTERRUPTED'; $i++) {
        usleep(100_000);
    }
    $watch->read([($this->pair)()]);
    $rule = new NoticeRule(['kind' => NoticeKind::Pair, 'threshold' => 1]);
    expect(collect(iterator_to_array(Conditions::of($rule), false))->pluck('title')->all())
        ->toBe([Server::query()->findOrFail($this->w->servers['dh1'])->name.' in the pair Quays is in COMMUNICATIONS-INTERRUPTED']);
    $this->actingAs($this->w->people['operator']);
    $down = "/lease/pairs/$this->id/down/{$this->w->servers['dh1']}";
    $this->get("/lease/pairs/$this->id")->assertOk()->assertReads(' is off')->assertReads('does not answer');
    $this->post($down, ['sure' => '1'])->assertSessionHas('bad');
    $this->post($down, ['sure' => '1', 'reason' => 'fire in the hall'])->assertSessionHas('done');
    expect(DB::table('pair_servers')->where('server_id', $this->w->servers['dh1'])->value('state'))->toBe('PARTNER-DOWN')
        ->and(DB::table('history')->where('object_id', $this->id)->orderByDesc('id')->value('reason'))->toBe('fire in the hall');
    $this->post($down, ['sure' => '1', 'reason' => 'again'])
        ->assertSessionHas('bad', fn (string $m): bool => str_contains($m, 'told already'));
    $this->actingAs($this->w->people['reader']);
    $this->post($down, ['sure' => '1', 'reason' => 'x'])->assertForbidden();
});

it('computes who of a pair answers, and what a lost one leaves', function (): void {
    ($this->make)(['percent' => '50']);
    ($this->join)();
    DB::table('scope_servers')->where('scope_id', $this->w->scope->id)->update(['shipped_at' => now()]);
    $answered = [];
    for ($i = 0; $i < 12; $i++) {
        $client = new ClientSketch(MacAddress::parse(sprintf('02:00:5e:00:53:%02x', $i)), '', []);
        $scope = Scope::query()->with(['prefix', 'placements.server', 'ranges', 'exclusions', 'reservations', 'optionValues', 'pair.first',
            'pair.second'])
            ->findOrFail($this->w->scope->id);
        $who = ServedClient::of($scope, $client)->answering();
        expect($who)->toHaveCount(1);
        $answered[$who[0]] = true;
        expect(ServedClient::of($scope, $client, [Server::query()->where('name', $who[0])->sole()->id])->answering())->not->toBe($who)
            ->toHaveCount(1);
    }
    expect($answered)->toHaveCount(2);
});

it('draws a new key beside the old one, and forgets the old one when it is told to', function (): void {
    ($this->make)();
    $old = ($this->pair)()->keys[0]['id'];
    $this->w->did(new ChangePair($this->id, newKey: true));
    $keys = ($this->pair)()->keys;
    expect($keys)->toHaveCount(2)->and($keys[0]['id'])->toBe($old);
    // A third one would leave servers that have the first alone without a key in common.
    expect($this->w->refusal(ChangePair::class, ['pair' => $this->id, 'newKey' => '1']))->toBe('two-keys');
    $this->w->did(new ChangePair($this->id, forget: true));
    expect(($this->pair)()->keys)->toBe([$keys[1]])
        // No secret in history.
        ->and(json_encode(DB::table('history')->where('object_id', $this->id)->get()))->not->toContain($keys[1]['secret']);
});

it('makes scopes on many subnets by one rule, all or none', function (): void {
    $ids = [];
    foreach (['192.0.2.128/26', '192.0.2.192/27'] as $i => $net) {
        $subnet = $this->w->carve($net, ['name' => "Net $i", 'stage' => 'live']);
        $this->w->did(new ChangePrefix([$subnet->id], gateway: (string) $subnet->prefix()->usable()->first));
        $ids[] = $subnet->id;
    }
    $input = ['prefixes' => $ids, 'servers' => [$this->w->servers['dh1'], $this->w->servers['dh2']]];
    expect($this->w->refusal(MakeScopes::class, $input + ['rule' => 'from .20 to .50']))->toBe('rule-does-not-fit')
        ->and(Scope::query()->whereIn('prefix_id', $ids)->count())->toBe(0);
    $this->w->did(MakeScopes::fromInput($input + ['rule' => 'the upper half']));
    $scopes = Scope::query()->with('ranges')->whereIn('prefix_id', $ids)->orderBy('name')->get();
    expect($scopes)->toHaveCount(2)
        ->and($scopes[0]->ranges->map(fn ($r): string => (string) $r->range())->all())
        ->toBe(['192.0.2.160-192.0.2.183', '192.0.2.184-192.0.2.190']);
    expect($this->w->refusal(MakeScopes::class, $input + ['rule' => 'all']))->toBe('scope-twice')
        ->and($this->w->refusal(MakeScopes::class, $input + ['rule' => 'some']))->toBe('bad-range');
});

it('reserves from a pasted list, whatever stands first in a line, all or none', function (): void {
    $scope = $this->w->scope;
    $paste = fn (string $lines): PasteReservations => PasteReservations::fromInput(['scope' => $scope->id, 'lines' => $lines]);
    $before = Reservation::query()->where('scope_id', $scope->id)->count();
    $this->w->did($paste("192.0.2.40 00:00:5e:00:53:17 printer-2\r\n00-00-5e-00-53-18, 192.0.2.41\n\n0x00abcdef;192.0.2.42;door"));
    expect(Reservation::query()->where('scope_id', $scope->id)->count())->toBe($before + 3)
        ->and(Reservation::query()->where('scope_id', $scope->id)->orderBy('address')->get()
            ->map(fn (Reservation $r): string => "$r->address {$r->client()} $r->name")->all())
        ->toBe(['192.0.2.40 00:00:5e:00:53:17 printer-2', '192.0.2.41 00:00:5e:00:53:18 ', '192.0.2.42 0x00abcdef door']);
    foreach ([
        "192.0.2.43 00:00:5e:00:53:20 a\n192.0.2.44" => 'bad-line', '00:00:5e:00:53:21 x' => 'bad-line',
        '192.0.2.45 00:00:5e:00:53:21 a b' => 'bad-line',
        "192.0.2.45 00:00:5e:00:53:21\n192.0.2.45 00:00:5e:00:53:22" => 'twice', '192.0.2.40 00:00:5e:00:53:29' => 'address-reserved',
        ' ' => 'bad-count',
    ] as $lines => $code) {
        expect($this->w->refusal(PasteReservations::class, ['scope' => $scope->id, 'lines' => $lines]))->toBe($code);
    }
    expect(Reservation::query()->where('scope_id', $scope->id)->count())->toBe($before + 3);
});

it('shows pairs, the list of scopes by pair, and subnets without a scope', function (): void {
    ($this->make)(['name' => 'Outer Isles']);
    ($this->join)();
    $this->actingAs($this->w->people['operator']);
    $this->get('/lease/pairs')->assertOk()->assertReads('Outer Isles')->assertReads('not shipped yet');
    $this->get("/lease/pairs/$this->id")->assertOk()->assertReads($this->w->scope->name)->assertReads('ship it');
    $this->get('/lease?filter=pair:"Outer Isles"')->assertOk()->assertReads($this->w->scope->name);
    $this->get('/lease?filter=pair:other')->assertOk()->assertDontSee($this->w->scope->name);
    $this->get('/lease?filter=colour:red')->assertOk()->assertReads('is not understood');
    $this->get('/lease/without')->assertOk()->assertDontSee($this->w->subnet->id);
    $this->get("/lease/scope/{$this->w->scope->id}")->assertOk()->assertReads('Leased by the pair Outer Isles');
});

it('is read by programs without its keys, and not by who sees a part of the plan only', function (): void {
    ($this->make)();
    ($this->join)();
    $read = function (Person $person, string $path): Illuminate\Testing\TestResponse {
        $this->app['auth']->forgetGuards();
        $secret = (string) $this->w->acts()->commit($person, [MakeToken::fromInput(['name' => 'meter'])])->made('once');

        return $this->json('GET', "/api/v1/$path", [], ['Authorization' => "Bearer $secret"]);
    };
    $told = $read($this->w->people['operator'], 'pairs')->assertOk();
    expect($told->json('items.0.name') ?? $told->json('data.0.name'))->toBe('Quays')
        ->and((string) $told->getContent())->not->toContain(($this->pair)()->keys[0]['secret'])->not->toContain('"keys"');
    $read($this->w->people['operator'], "scopes?pair_id=$this->id")->assertOk()->assertSee($this->w->scope->name);
    expect((string) $read($this->w->bound(), 'pairs')->getContent())->not->toContain('Quays');
});

it('does not call a server away that leaves a client to its partner', function (): void {
    config(['harbor.patience' => 0.5]);
    $s = new Standins(['dh1' => 'dhcp', 'dh2' => 'dhcp']);
    foreach ($s->settings as $name => $own) {
        $this->w->did(new ChangeServer($this->w->servers[$name], '127.0.0.1:'.$own['port'], '127.0.0.1:'.$own['control'], 'secret'));
    }
    ($this->make)();
    ($this->join)();
    foreach (['dh1', 'dh2'] as $name) {
        app(Shipping::class)->ship(null, Server::query()->findOrFail($this->w->servers[$name]));
    }
    for ($i = 0; $i < 80 && $s->tell('dh1', 'pairs')['states'][0]['state'] !== 'NORMAL'; $i++) {
        usleep(100_000);
    }
    $mac = '02:00:5e:00:00:01';
    for ($i = 1; LoadBalance::bucket("\1".hex2bin(str_replace(':', '', $mac))) < 128; $i++) {
        $mac = sprintf('02:00:5e:00:00:%02x', $i);
    }
    $this->actingAs($this->w->people['operator']);
    $this->post('/lease/exchange', ['scope' => $this->w->scope->id, 'server' => $this->w->servers['dh1'], 'mac' => $mac])->assertOk()
        ->assertReads('was silent, as computed: bucket')->assertDontSee('It may be down');
});
