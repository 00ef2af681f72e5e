<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeServer;
use App\Acts\Name\AddRecord;
use App\Live\LeaseReading;
use App\Models\Server;
use App\Models\Shipment;
use App\Models\ShipmentState;
use App\Queries\InUse;
use Illuminate\Support\Facades\DB;
use Tests\Standins;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    $this->s = new Standins(['ns1' => 'dns', 'dh1' => 'dhcp']);
    foreach ($this->s->settings as $name => $own) {
        $this->w->did(new ChangeServer($this->w->servers[$name], '127.0.0.1:'.$own['port'], '127.0.0.1:'.$own['control'], 'secret'));
    }
    config(['harbor.patience' => 1.0]);
    $this->page = "/ship/server/{$this->w->servers['ns1']}";
    $this->actingAs($this->w->people['operator']);
});

it('shows intended against running, ships, and keeps what was done', function (): void {
    $this->get($this->page)->assertOk()->assertReads('2 of 2 zones differ')->assertSee('not on this server yet')
        ->assertSee('Ship and verify');
    $this->post($this->page)->assertRedirect($this->page);
    $this->get($this->page)->assertOk()->assertSee('is as intended')->assertSee('answered with authority');
    expect(Shipment::query()->where('server_id', $this->w->servers['ns1'])->sole()->state)->toBe(ShipmentState::Done);
    $this->w->did(AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => 'new', 'type' => 'A', 'data' => '192.0.2.9']));
    $this->get($this->page)->assertSee("new.{$this->w->zone->name} 3600 A 192.0.2.9");
    $this->get("/name/zone/{$this->w->zone->id}?filter=new")->assertSee('saved, not shipped');
    $this->post($this->page, ['only' => [$this->w->zone->id]]);
    $this->get("/name/zone/{$this->w->zone->id}?filter=new")->assertSee('shipped to 1 of 2');
});

it('takes away what the plan does not place only when that is asked for', function (): void {
    $this->s->tell(
        'ns1',
        'apply',
        [
            'view' => 'old', 'zone' => 'gone.example.', 'from' => null, 'first' => true,
            'add' => ['gone.example. 60 SOA a.gone.example. b.gone.example. 1 2 3 4 5'],
        ],
    );
    $this->get($this->page)->assertReads('also take away 1 zones');
    $this->post($this->page);
    expect(collect($this->s->tell('ns1', 'zones')['zones'])->pluck('zone'))->toContain('gone.example.');
    $this->post($this->page, ['removals' => '1']);
    expect(collect($this->s->tell('ns1', 'zones')['zones'])->pluck('zone'))->not->toContain('gone.example.');
});

it('says what does not answer, and the page still stands', function (): void {
    $this->post("$this->page/mode", ['mode' => 'silent'])->assertSessionHas('done');
    // The page is not waited for: what the server says comes behind it.
    $this->get($this->page)->assertOk()->assertReads('It is slow: what it runs is asked behind this page')
        ->assertSee('hx-trigger="load"', false)->assertDontSee('What it runs now is not known')->assertDontSee('Ship and verify')
        ->assertDontSee('as intended');
    $this->get("$this->page?now=1")->assertOk()->assertSee('did not answer')->assertSee('What it runs now is not known');
    $together = '/ship/together?'.http_build_query(['only' => [$this->w->zone->id]]);
    $this->get($together)->assertOk()->assertReads('slow: it is asked behind this page')->assertSee('now=1', false)
        ->assertDontSee('Everything of it is as intended')->assertDontSee('Ship and verify');
    $this->get("$together&now=1")->assertOk()->assertSee('did not answer')->assertDontSee('asked behind this page');
    $this->post($this->page)->assertRedirect($this->page);
    expect(Shipment::query()->where('server_id', $this->w->servers['ns1'])->sole()->state)->toBe(ShipmentState::Failed);
    $this->post("$this->page/mode", ['mode' => 'normal']);
    $this->get($this->page)->assertSee('It is asked again now');
    $this->get("$this->page?now=1")->assertDontSee('could not be read')->assertSee('Ship and verify');
});

it('looks up by a real packet and shows flags and bytes', function (): void {
    $this->post($this->page);
    $ask = fn (string $q, string $type = ''): string => '/name/lookup?'
        .http_build_query(['q' => $q, 'type' => $type, 'server' => $this->w->servers['ns1'], 'view' => $this->w->view]);
    $this->get($ask($this->w->zone->title(), 'NS'))->assertOk()->assertSee('with authority')
        ->assertSee('ns2.quay.example.')->assertSee('0000 ');
    $this->get($ask('nobody.'.$this->w->zone->title()))->assertSee('No such name')->assertSee('SOA');
    $this->get($ask('192.0.2.9'))->assertSee('9.2.0.192.in-addr.arpa. PTR');
    $this->get($ask('www.other.'))->assertSee('refuses to answer');
    $this->get($ask('a..b'))->assertSee('No answer to show')->assertSee('two dots');
    $this->s->stop('ns1');
    $this->get($ask($this->w->zone->title()))->assertOk()->assertSee('cannot be reached');
});

it('runs an exchange from the page', function (): void {
    $input = [
        'scope' => $this->w->scope->id, 'server' => $this->w->servers['dh1'], 'mac' => '02:00:5e:00:53:44', 'name' => 'kiosk',
        'asked' => '1 3 6 15',
    ];
    $this->post('/lease/exchange', $input)->assertOk()->assertSee('did not answer')->assertSee('whether the scope is shipped');
    $this->post("/ship/server/{$this->w->servers['dh1']}");
    $this->post('/lease/exchange', $input)->assertOk()->assertSee('192.0.2.60')->assertSee('RELEASE')->assertSee('quay.example');
    $this->post('/lease/exchange', ['mac' => 'x'] + $input)->assertOk()->assertSee('Nothing was sent');
});

it('reads leases, and writes again only what changed', function (): void {
    $this->post("/ship/server/{$this->w->servers['dh1']}");
    $lease = [
        'address' => '192.0.2.61', 'mac' => '00:00:5e:00:53:61', 'name' => 'a', 'starts' => time() - 60, 'ends' => time() + 3600,
        'scope' => $this->w->scope->id,
    ];
    $this->s->tell('dh1', 'grant', ['leases' => [$lease, ['address' => '192.0.2.62', 'mac' => '00:00:5e:00:53:62'] + $lease]]);
    $server = Server::query()->findOrFail($this->w->servers['dh1']);
    expect(app(LeaseReading::class)->read($server)['added'])->toBe(3) // two granted, and the one that the proof took and gave back
        ->and(app(LeaseReading::class)->read($server)['same'])->toBe(3)
        ->and(InUse::activeLeases()->where('scope_id', $this->w->scope->id)->count())->toBe(2);
    $this->get("/lease/scope/{$this->w->scope->id}")->assertSee('192.0.2.61')->assertSee('2 active');
    $this->get('/lease')->assertSee('2 of 41');
    $outcome = $this->w->acts()
        ->rehearse(null, [new App\Acts\Lease\ChangeScope($this->w->scope->id, ranges: ['192.0.2.62-192.0.2.100'], divide: true)]);
    expect(array_column($outcome->notes(), 'code'))->toContain('leases-cut-off');
    $taken = $this->w->acts()
        ->rehearse(null, [new App\Acts\Lease\AddReservation($this->w->scope->id, '192.0.2.61', '00:00:5e:00:53:99')]);
    expect(array_column($taken->notes(), 'code'))->toContain('leased-to-another');
});

it('leads from what was done to the servers that have to be told', function (): void {
    $w = World::make();
    $this->actingAs($w->people['operator']);
    $place = [
        'prefix' => $w->subnet->id, 'name' => 'till-1', 'zone' => $w->zone->id, 'ptr' => '1', 'mac' => '00:00:5e:00:53:01',
        'reserve' => '1', 'then' => 'commit',
    ];
    $this->post('/act/place-host', $place)->assertSessionHas('done');
    $steps = collect(session('next'))->pluck('link', 'words');
    $back = $steps['Take it back'];
    $ship = (string) $steps->keys()->first(fn (string $words): bool => str_starts_with($words, 'Ship to '));
    // The secondary fetches by itself.
    expect($ship)->toContain('dh1-')->toContain('dh2-')->toContain('ns1-')->not->toContain('ns2-')
        ->and($steps->keys()->all())->toEqualCanonicalizing([$ship, 'Ask for it', 'Place another', 'Take it back'])
        ->and($steps['Place another'])->toBe("/plan/prefix/{$w->subnet->id}#place")
        ->and($steps['Ask for it'])->toContain('till-1.')
        ->and(urldecode($steps[$ship]))->toContain('/ship/together?')->toContain("={$w->scope->id}")->toContain($w->zone->id)
        ->toContain($w->reverse->id);
    $this->get("/plan/prefix/{$w->subnet->id}")->assertReads('done. Ship to');
    $this->get($steps[$ship])->assertOk()->assertReads('Ship together')->assertReads('cannot be reached at');
    $this->get($back)->assertOk()->assertReads('till-1');
    // What needs no server leads to none; who may not ship is led nowhere.
    $this->actingAs($w->people['planner'])
        ->post('/act/change-prefix', ['prefixes' => [$w->subnet->id], 'description' => 'x', 'then' => 'commit']);
    expect(collect(session('next', []))->pluck('words')->reject('Take it back')->all())->toBe([]);
});

it('shows the page of a server that did not answer at once, and asks it behind the page', function (): void {
    $w = World::make();
    $this->actingAs($w->people['operator']);
    $page = '/ship/server/'.$w->servers['dh1'];
    $this->get($page)->assertOk()->assertReads('could not be read')->assertDontSee('It is asked again now');
    DB::table('server_states')->updateOrInsert(['server_id' => $w->servers['dh1']], [
        'problem' => 'dh1 was silent', 'problem_since' => now()->subHour(),
    ]);
    $this->get($page)->assertOk()->assertReads('1 hour ago. It is asked again now.')->assertDontSee('could not be read')
        ->assertDontSee('Ship and verify')->assertSee('hx-trigger="load"', false);
    // What comes for the page is what was asked, not the page anew; so is what somebody waits for.
    $this->get("$page?now=1", ['HX-Request' => 'true'])->assertOk()->assertHeaderMissing('HX-Retarget')->assertReads('could not be read');
    $this->get("$page?now=1")->assertOk()->assertReads('could not be read');
    $this->get($page, ['HX-Request' => 'true'])->assertHeader('HX-Retarget', '#server-page');
});
