<?php

declare(strict_types=1);

use App\Acts\Name\AddRecord;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\PlaceHost;
use App\Models\Draft;
use App\Models\Host;
use App\Models\Person;
use App\Models\Prefix;
use Tests\World;

it('sends strangers to the sign-in page', function (string $path): void {
    World::make(false);
    $this->get($path)->assertRedirect('/sign-in');
})->with(['/', '/plan', '/name', '/lease', '/ship', '/ship/draft', '/watch', '/directory/sites', '/find?q=x', '/import']);

it('signs in, and says no more than it must when it does not', function (): void {
    $w = World::make(false);
    $name = $w->people['planner']->sign_in;
    $this->post('/sign-in', ['sign_in' => $name, 'password' => 'wrong'])->assertRedirect()->assertSessionHas('bad');
    $this->post('/sign-in', ['sign_in' => $name, 'password' => 'a-long-password'])->assertRedirect('/');
    $this->assertAuthenticatedAs($w->people['planner']);
    $this->post('/sign-out')->assertRedirect('/sign-in');
    $this->assertGuest();
});

it('throttles guessing', function (): void {
    $w = World::make(false);
    foreach (range(1, 10) as $i) {
        $this->post('/sign-in', ['sign_in' => $w->people['planner']->sign_in, 'password' => 'wrong']);
    }
    $this->post('/sign-in', ['sign_in' => $w->people['planner']->sign_in, 'password' => 'a-long-password'])->assertStatus(429);
});

it('sends a strict policy with every page', function (): void {
    $w = World::make(false);
    $page = $this->actingAs($w->people['planner'])->get("/plan/prefix/{$w->top->id}")->assertOk();
    expect($page->headers->get('Content-Security-Policy'))->toContain("default-src 'self'")->not->toContain('unsafe')
        ->and($page->getContent())->not->toMatch('/<script(?![^>]*src=)/')->not->toMatch('/ style="/')->not
        ->toMatch('/ on[a-z]+="/');
});

it('shows every page of the slice', function (string $path): void {
    $w = World::make();
    $w->did(
        PlaceHost::fromInput([
            'prefix' => $w->subnet->id, 'name' => 'till-1', 'zone' => $w->zone->id, 'mac' => '00:00:5e:00:53:01', 'ptr' => '1',
            'reserve' => '1',
        ]),
    );
    $w->did(AddRecord::fromInput(['zone' => $w->zone->id, 'name' => 'x', 'type' => 'TXT', 'data' => '"<script>alert(1)</script>"']));
    $path = strtr(
        $path,
        [
            'TOP' => $w->top->id, 'SUBNET' => $w->subnet->id, 'ZONE' => $w->zone->id, 'SCOPE' => $w->scope->id,
            'SPACE' => $w->space->id, 'SERVER' => $w->servers['ns1'],
        ],
    );
    $page = $this->actingAs($w->person('all-'.bin2hex(random_bytes(3)), ['steward', 'planner', 'operator']))->get($path)->assertOk();
    expect((string) $page->getContent())->not->toContain('<script>alert')->not->toContain('secret');
})->with([
    '/plan/prefix/TOP', '/plan/prefix/SUBNET', '/plan/prefix/SUBNET?address=192.0.2.2', '/plan/prefix/TOP?zoom=192.0.2.0/26',
    '/plan/prefix/TOP?filter=site:x+stage:live', '/name', '/name/zone/ZONE', '/name/zone/ZONE?filter=type:txt', '/name/lookup',
    '/lease', '/lease/scope/SCOPE', '/lease/exchange', '/ship', '/ship/server/SERVER', '/ship/draft', '/watch', '/directory/sites',
    '/directory/vlans', '/directory/people', '/directory/devices', '/directory/tenants', '/find?q=192.0.2.2', '/find?q=till',
    '/find?q=110', '/find?q=00:00:5e:00:53:01', '/find?q=255.255.250', '/import', '/plan/SPACE/export.csv',
    '/name/zone/ZONE/export.zone',
]);

it('computes what follows without writing, then commits', function (): void {
    $w = World::make(false);
    $input = ['_form' => 'place', 'prefix' => $w->subnet->id, 'name' => 'till-1', 'zone' => $w->zone->id, 'ptr' => '1'];
    $this->actingAs($w->people['operator'])->withHeader('HX-Request', 'true')->post('/act/place-host', $input)
        ->assertOk()->assertSee('What follows')->assertSee('2.2.0.192.in-addr.arpa')->assertSee('Add to draft');
    expect(Host::query()->where('prefix_id', $w->subnet->id)->count())->toBe(0);
    $this->post('/act/place-host', $input + ['then' => 'commit'])->assertHeader('HX-Redirect', url("/plan/prefix/{$w->subnet->id}"));
    expect(Host::query()->where('prefix_id', $w->subnet->id)->sole()->name)->toBe('till-1.'.$w->zone->title());
});

it('shows what follows on a page of its own without script', function (): void {
    $w = World::make(false);
    $this->actingAs($w->people['planner'])
        ->post('/act/carve-prefix', ['space' => $w->space->id, 'prefix' => '192.0.2.128/26', 'name' => 'Gates'])
        ->assertOk()->assertSee('What follows')->assertSee('name="prefix"', false);
    $this->post('/act/carve-prefix', ['space' => $w->space->id, 'prefix' => '192.0.2.1/26'])->assertStatus(422)->assertSee('192.0.2.0/26');
});

it('loses nothing that was typed when a commit is refused', function (): void {
    $w = World::make(false);
    $this->actingAs($w->people['planner'])->from("/plan/prefix/{$w->top->id}")
        ->post(
            '/act/carve-prefix',
            ['_form' => 'carve', 'space' => $w->space->id, 'prefix' => '192.0.2.64/26', 'name' => 'Gates', 'then' => 'commit'],
        )
        ->assertRedirect("/plan/prefix/{$w->top->id}")->assertSessionHas('bad');
    $this->get("/plan/prefix/{$w->top->id}")->assertSee('Nothing was written')->assertSee('value="Gates"', false)->assertSee('Ticketing');
});

it('keeps edits in a draft that is rehearsed, marked and committed as one', function (): void {
    $w = World::make(false);
    $me = $w->person('both-'.bin2hex(random_bytes(3)), ['planner', 'operator']);
    $this->actingAs($me);
    $carve = ['space' => $w->space->id, 'prefix' => '192.0.2.128/26', 'name' => 'Gates', 'then' => 'draft'];
    $this->post('/act/carve-prefix', $carve)->assertRedirect();
    $this->post('/act/change-prefix', ['prefixes' => [$w->subnet->id], 'name' => 'Tills', 'then' => 'draft'])->assertRedirect();
    $draft = Draft::query()->where('person_id', $me->id)->sole();
    $made = $draft->edits[0]->input['id'];
    // A later edit stands on what only the draft has.
    $this->post('/act/place-host', ['prefix' => $made, 'address' => '192.0.2.130', 'then' => 'draft'])->assertRedirect();
    expect($draft->refresh()->edits)->toHaveCount(3)->and(Prefix::query()->find($made))->toBeNull()
        ->and($draft->edits[1]->expects)->toBe(["prefix:{$w->subnet->id}" => $w->subnet->version])
        ->and($draft->edits[2]->expects)->toBe([]);
    $this->get('/ship/draft')->assertOk()->assertSee('Gates')->assertSee('Commit as one');
    $this->get("/plan/prefix/{$w->top->id}")->assertSee('in your draft');
    $this->post("/ship/drafts/$draft->id/commit")->assertRedirect('/ship');
    expect(Prefix::query()->findOrFail($made)->name)->toBe('Gates')
        ->and(Host::query()->where('prefix_id', $made)->count())->toBe(1)->and($w->subnet->refresh()->name)
        ->toBe('Tills')->and($draft->refresh()->state)->toBe(App\Models\DraftState::Committed);
});

it('names the edit that no longer holds', function (): void {
    $w = World::make(false);
    $this->actingAs($w->people['planner']);
    $this->post('/act/change-prefix', ['prefixes' => [$w->subnet->id], 'name' => 'Tills', 'then' => 'draft']);
    $this->post('/act/carve-prefix', ['space' => $w->space->id, 'prefix' => '192.0.2.128/26', 'name' => 'Gates', 'then' => 'draft']);
    $w->did(new ChangePrefix([$w->subnet->id], name: 'Kiosks'));
    $draft = Draft::query()->where('person_id', $w->people['planner']->id)->sole();
    $this->get('/ship/draft')->assertSee('changed meanwhile')->assertSee('Kiosks');
    $this->post("/ship/drafts/$draft->id/commit")->assertRedirect("/ship/drafts/$draft->id")->assertSessionHas('bad');
    expect($w->subnet->refresh()->name)->toBe('Kiosks')
        ->and(Prefix::query()->where('name', 'Gates')->where('space_id', $w->space->id)->exists())->toBeFalse();
    $this->post("/ship/drafts/$draft->id/edits/{$draft->edits[0]->id}", ['what' => 'out'])->assertSessionHas('done');
    $this->post("/ship/drafts/$draft->id/commit")->assertRedirect('/ship');
    expect(Prefix::query()->where('name', 'Gates')->where('space_id', $w->space->id)->exists())->toBeTrue();
});

it('lets nobody touch another person\'s draft', function (): void {
    $w = World::make(false);
    $this->actingAs($w->people['planner'])
        ->post('/act/change-prefix', ['prefixes' => [$w->subnet->id], 'name' => 'Tills', 'then' => 'draft']);
    $draft = Draft::query()->where('person_id', $w->people['planner']->id)->sole();
    $this->actingAs($w->people['operator'])->post("/ship/drafts/$draft->id/edits/{$draft->edits[0]->id}", ['what' => 'out'])
        ->assertNotFound();
    $this->post('/act/drop-draft', ['draft' => $draft->id, 'then' => 'commit']);
    expect($draft->refresh()->state)->toBe(App\Models\DraftState::Open)->and($draft->edits()->count())->toBe(1);
});

it('keeps no password in a draft', function (): void {
    $w = World::make(false);
    $this->actingAs($w->people['steward'])
        ->post(
            '/act/make-person',
            ['signIn' => 'newcomer', 'name' => 'N', 'password' => 'a-long-password', 'roles' => ['reader'], 'then' => 'draft'],
        );
    expect(Draft::query()->where('person_id', $w->people['steward']->id)->exists())->toBeFalse();
});

it('refuses writes by role, over HTTP as well', function (): void {
    $w = World::make(false);
    $this->actingAs($w->people['reader'])
        ->post('/act/carve-prefix', ['space' => $w->space->id, 'prefix' => '192.0.2.128/26', 'then' => 'commit'])
        ->assertSessionHas('bad');
    $this->actingAs($w->people['planner'])
        ->post('/act/make-person', ['signIn' => 'x1', 'password' => 'a-long-password', 'roles' => ['steward'], 'then' => 'commit'])
        ->assertSessionHas('bad');
    $this->actingAs($w->people['reader'])->post("/ship/server/{$w->servers['ns1']}")->assertForbidden();
    $this->actingAs($w->people['reader'])->get('/import')->assertForbidden();
    $this->actingAs($w->people['reader'])->post('/act/no-such-act')->assertNotFound();
    expect(Prefix::query()->where('space_id', $w->space->id)->count())->toBe(2)
        ->and(Person::query()->where('sign_in', 'x1')->exists())->toBeFalse();
});

it('shows a tenant\'s admin what is theirs and nothing of the rest', function (): void {
    $w = World::make();
    $w->did(
        PlaceHost::fromInput([
            'prefix' => $w->subnet->id, 'name' => 'hidden-till', 'zone' => $w->zone->id, 'mac' => '00:00:5e:00:53:77', 'ptr' => '1',
        ]),
    );
    $quill = $w->bound();
    $gates = Prefix::query()->where('name', 'Gates')->where('space_id', $w->space->id)->sole();
    $this->actingAs($quill);
    $this->get("/plan/prefix/$gates->id")->assertOk()->assertSee('Gates')->assertDontSee('Quay')->assertDontSee('Ticketing');
    $this->get("/plan/{$w->space->id}")->assertOk()->assertSee('Gates')->assertDontSee('Ticketing');
    foreach (
        [
            "/plan/prefix/{$w->subnet->id}", "/plan/prefix/{$w->top->id}", "/name/zone/{$w->zone->id}", "/lease/scope/{$w->scope->id}",
            "/name/zone/{$w->zone->id}/export.zone",
        ] as $path
    ) {
        $this->get($path)->assertNotFound();
    }
    foreach (
        [
            '/ship', '/watch', '/name/lookup', '/lease/exchange', '/import', '/directory/people', "/plan/{$w->space->id}/export.csv",
            "/ship/server/{$w->servers['ns1']}",
        ] as $path
    ) {
        $this->get($path)->assertForbidden();
    }
    foreach (['192.0.2.2', 'hidden', '00:00:5e:00:53:77', '192.0.2.0/24', 'Tick'] as $q) {
        $this->get('/find?q='.urlencode($q))->assertOk()->assertDontSee('hidden-till')->assertDontSee('Ticketing');
    }
});

it('lets a tenant\'s admin write only what is theirs', function (): void {
    $w = World::make();
    $host = $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => '192.0.2.9']))->made('host');
    $quill = $w->bound();
    $gates = Prefix::query()->where('name', 'Gates')->where('space_id', $w->space->id)->sole();
    $this->actingAs($quill);
    $this->post('/act/place-host', ['prefix' => $gates->id, 'address' => '192.0.2.130', 'then' => 'commit'])->assertSessionHas('done');
    foreach (
        [
            ['place-host', ['prefix' => $w->subnet->id]],
            ['place-host', ['prefix' => $gates->id, 'zone' => $w->zone->id, 'name' => 'x']],
            ['change-host', ['host' => $host, 'description' => 'mine']],
            ['release-hosts', ['hosts' => [$host]]],
            ['add-record', ['zone' => $w->zone->id, 'type' => 'A', 'data' => '192.0.2.1']],
            ['change-prefix', ['prefixes' => [$gates->id], 'name' => 'x']],
            ['carve-prefix', ['space' => $w->space->id, 'prefix' => '192.0.2.192/27']],
            ['add-reservation', ['scope' => $w->scope->id, 'address' => '192.0.2.9', 'mac' => '00:00:5e:00:53:01']],
        ] as [$act, $input]
    ) {
        $this->post("/act/$act", $input + ['then' => 'commit'])->assertSessionHas('bad');
    }
    expect(Host::query()->find($host)?->description)->toBe('')->and(Host::query()->where('prefix_id', $gates->id)->count())->toBe(1);
});

it('makes the first person on an empty installation, once', function (): void {
    Person::query()->getQuery()->delete();
    $this->get('/sign-in')->assertRedirect('/first-person');
    $this->post('/first-person', ['signIn' => 'first', 'name' => 'First', 'password' => 'short'])->assertSessionHas('bad');
    $this->post('/first-person', ['signIn' => 'first', 'name' => 'First', 'password' => 'a-long-password'])->assertRedirect('/first-steps');
    $this->get('/plan')->assertOk()->assertSee('No space yet');
    auth()->logout();
    $this->post('/first-person', ['signIn' => 'second', 'name' => 'S', 'password' => 'a-long-password'])->assertRedirect('/sign-in');
    expect(Person::query()->pluck('sign_in')->all())->toBe(['first']);
});

it('asks a fixed number of queries, whatever is stored', function (): void {
    $w = World::make();
    $this->actingAs($w->people['planner']);
    $count = function (string $path): int {
        \Illuminate\Support\Facades\DB::flushQueryLog();
        \Illuminate\Support\Facades\DB::enableQueryLog();
        $this->get($path)->assertOk();

        return count(\Illuminate\Support\Facades\DB::getQueryLog());
    };
    $paths = [
        "/plan/prefix/{$w->top->id}", "/plan/prefix/{$w->subnet->id}", "/name/zone/{$w->zone->id}", '/name', '/lease',
        "/lease/scope/{$w->scope->id}",
    ];
    $before = array_map($count, $paths);
    foreach (range(10, 40) as $i) {
        $w->did(
            PlaceHost::fromInput([
                'prefix' => $w->subnet->id, 'name' => "h$i", 'zone' => $w->zone->id, 'ptr' => '1', 'mac' => "00:00:5e:00:53:$i",
                'reserve' => '1',
            ]),
        );
    }
    foreach (range(0, 7) as $i) {
        $w->carve('192.0.2.'.(128 + $i * 8).'/29');
        $w->zone("z$i.example");
    }
    $after = array_map($count, $paths);
    foreach ($paths as $i => $path) {
        expect($after[$i])->toBeLessThanOrEqual($before[$i] + 4, $path)->and($after[$i])->toBeLessThan(45, $path);
    }
});

it('keeps what a form said through a request for a part that began before it', function (): void {
    config(['session.driver' => 'array']);
    $w = Tests\World::make(false);
    $this->actingAs($w->people['operator']);
    $this->get('/name')->assertOk();
    session()->flash('done', 'It is done.');
    session()->save();
    // A rehearsal neither ages nor overwrites what waits to be said on the next page.
    $this
        ->post(
            '/act/add-record',
            ['zone' => $w->zone->id, 'type' => 'A', 'name' => 'x', 'data' => '192.0.2.7', 'then' => 'preview'],
            ['HX-Request' => 'true'],
        )
        ->assertOk();
    $this->get('/name')->assertOk()->assertSee('It is done.');
    $this->get('/name')->assertOk()->assertDontSee('It is done.');
});
