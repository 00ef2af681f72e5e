<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeResolving;
use App\Acts\Directory\ChangeServer;
use App\Acts\Directory\MakeServer;
use App\Acts\Plan\ChangePrefix;
use App\Links\DifferenceState;
use App\Links\Links;
use App\Models\Server;
use App\Models\ShipmentState;
use App\Models\Vlan;
use App\Shipping\Drifts;
use App\Shipping\DriftWatch;
use App\Shipping\Shipping;
use Illuminate\Support\Facades\DB;
use Tests\Standins;
use Tests\World;

/** What somebody changes on a resolver or on switches is found, told from what waits, and taken or undone, difference by difference. */
it('takes how a server resolves into the plan, difference by difference', function (): void {
    $w = World::make(false);
    $s = new Standins(['ns1' => 'dns']);
    config(['harbor.patience' => 1.0]);
    $w->did(new ChangeServer($w->servers['ns1'], $s->endpoint('ns1'), '127.0.0.1:'.$s->settings['ns1']['control'], 'secret'));
    $hints = ".\t3600000\tNS\ta.roots.example.\na.roots.example.\t3600000\tA\t192.0.2.201\n"
        .".\t3600000\tNS\tb.roots.example.\nb.roots.example.\t3600000\tA\t192.0.2.202\n";
    $w->did(
        new ChangeResolving(
            [$w->servers['ns1']],
            'on',
            '192.0.2.54',
            'stop',
            $hints,
            zones: "cargo.example forwarded 192.0.2.54\npilots.example forwarded 192.0.2.54",
        ),
    );
    $server = fn (): Server => Server::query()->findOrFail($w->servers['ns1']);
    $difference = fn () => collect(Links::to($server())->compare())->firstWhere('kind', 'resolving');
    // Never brought there: it waits, nobody changed it.
    expect($difference()->state)->toBe(DifferenceState::Differs)->and($difference()->drifted)->toBeFalse();
    app(Shipping::class)->ship(null, $server());
    expect($difference()->state)->toBe(DifferenceState::Same);
    $runs = $s->tell('ns1', 'resolved')['resolving'];
    $there = ['recursion' => false, 'fallback' => true, 'forwarders' => ['127.0.0.1:1'], 'roots' => ['192.0.2.202', '192.0.2.209'],
        'zones' => [['zone' => 'cargo.example.', 'kind' => 'stub', 'servers' => ['192.0.2.53']]]] + $runs;
    $s->tell('ns1', 'resolving', $there);
    expect($difference()->drifted)->toBeTrue()->and(app(DriftWatch::class)->look($server()))->toBe(1)
        ->and(Drifts::of('resolving', ['resolving']))->toBe(['resolving' => [$server()->name]]);
    $page = "/ship/server/{$w->servers['ns1']}/drift";
    $this->actingAs($w->people['operator'])->get("/ship/server/{$w->servers['ns1']}")->assertOk()->assertSee($page)->assertSee('drifted');
    $this->get($page)->assertOk()
        ->assertSeeInOrder([
            'recursion', 'off', 'on', 'when none answers', 'asks the roots', 'gives up', 'forwarders',
            '127.0.0.1:1 is no server of the directory', 'root hint', 'zone cargo.example', 'zone pilots.example',
        ]);
    $this->actingAs($w->people['reader'])->get($page)->assertOk()->assertDontSee('Take the chosen');
    $this->post($page, ['take' => ['recursion']])->assertForbidden();
    $this->actingAs($w->people['operator'])->post($page, ['take' => ['forwarders', 'hint:192.0.2.209', 'made-up']])
        ->assertRedirect($page)->assertSessionHas('bad');
    $this
        ->post(
            $page,
            ['take' => ['hint:192.0.2.201', 'zone:cargo.example.', 'zone:pilots.example.', 'fallback'], 'reason' => 'moved by night'],
        )
        ->assertSessionHas('done');
    $own = $server()->resolving;
    expect($own['recursion'])->toBeTrue()->and($own['fallback'])->toBeTrue()->and($own['forwarders'])->toBe(['192.0.2.54'])
        ->and($own['hints'])->toHaveCount(1)->and($own['hints'][0]['addresses'])->toBe(['192.0.2.202'])
        ->and($own['zones'])->toBe([['zone' => 'cargo.example.', 'kind' => 'stub', 'addresses' => ['192.0.2.53']]]);
    $this->get($page)->assertSee('recursion')->assertDontSee('zone cargo.example')->assertDontSee('when none answers');
    // The rest is undone there by the shipment, and is no difference any more.
    $this->post("/ship/server/{$w->servers['ns1']}", ['only' => ['resolving']]);
    $this->get($page)->assertSee('is set as planned');
    $s->tell('ns1', 'mode', ['mode' => 'silent']);
    $this->get($page)->assertOk()->assertSee('could not be read');
    $this->get("/ship/server/{$w->servers['dh1']}/drift")->assertNotFound();
});

it('takes what somebody changed on switches into the directory and the plan', function (): void {
    $w = World::make(false);
    $standins = new Standins(['keel' => 'network']);
    $keel = MakeServer::fromInput([
        'name' => 'keel-'.bin2hex(random_bytes(3)), 'kind' => 'network', 'endpoint' => '127.0.0.1:9',
        'control' => '127.0.0.1:'.$standins->settings['keel']['control'], 'token' => 'secret',
    ]);
    $w->did($keel);
    $site = App\Acts\Directory\MakeSite::fromInput(['name' => 'Pier '.bin2hex(random_bytes(3))]);
    $w->did($site);
    $domain = App\Acts\Directory\MakeDomain::fromInput(['name' => 'pier-'.bin2hex(random_bytes(3)), 'site' => $site->id]);
    $w->did($domain);
    $vlan = App\Acts\Directory\MakeVlan::fromInput(['domain' => $domain->id, 'number' => 110, 'name' => 'TICKETING']);
    $w->did($vlan);
    $w->did(new ChangePrefix([$w->subnet->id], site: $site->id, vlan: $vlan->id));
    $server = Server::query()->findOrFail($keel->id);
    $of = fn () => collect(Links::to($server)->compare())->keyBy('id');
    // A VLAN that was never brought there is new; brought and then lost, it has drifted.
    expect($of()[$vlan->id]->state)->toBe(DifferenceState::New)->and($of()[$vlan->id]->drifted)->toBeFalse()
        ->and(app(Shipping::class)->ship(null, $server, [$vlan->id])['state'])->toBe(ShipmentState::Done)->and($of()[$vlan->id]->state)
        ->toBe(DifferenceState::Same);
    $name = $domain->name;
    $standins->tell('keel', 'switches', ['vlans' => [
        ['domain' => $name, 'number' => 110, 'name' => 'tickets', 'gateway' => '192.0.2.126', 'relays' => ['192.0.2.99']],
        ['domain' => $name, 'number' => 199, 'name' => 'STRAY'], ['domain' => $name, 'number' => 198, 'name' => ''],
    ]]);
    expect($of()[$vlan->id]->drifted)->toBeTrue()->and($of()["$name 199"]->drifted)->toBeTrue()
        ->and(app(DriftWatch::class)->look($server))->toBe(3);
    $page = "/ship/server/$keel->id/drift";
    $this->actingAs($w->person('both'.bin2hex(random_bytes(3)), ['operator', 'planner']));
    $this->get($page)->assertOk()
        ->assertSeeInOrder([
            "name of VLAN 110 in $name", 'tickets', 'TICKETING', 'gateway', '192.0.2.126', '192.0.2.1',
            'relays follow from the servers of the scope', 'STRAY', 'it has no name on the switch',
        ]);
    $this->post($page, ['take' => ["relays:$vlan->id", "new:$name 198"]])->assertSessionHas('bad');
    $this
        ->post($page, ['take' => ["name:$vlan->id", "gateway:$vlan->id", "new:$name 199"], 'reason' => 'set by hand at night'])
        ->assertSessionHas('done');
    expect(Vlan::query()->where('domain_id', $domain->id)->orderBy('number')->pluck('name', 'number')->all())->toBe([
        110 => 'tickets',
        199 => 'STRAY',
    ])
        ->and((string) $w->subnet->refresh()->gateway)->toBe('192.0.2.126');
    $this->get($page)->assertDontSee('name of VLAN')->assertSee('relays of VLAN 110');
    // Only a planner writes the plan.
    $this->actingAs($w->people['operator'])->post($page, ['take' => ["new:$name 198"]])->assertSessionHas('bad');
    // A changed plan waits and has not drifted: nobody changed the switch after that.
    $this->post("/ship/server/$keel->id", ['only' => [$vlan->id]]);
    $w->did(new App\Acts\Directory\ChangeVlan($vlan->id, name: 'TICKET HALL'));
    expect($of()[$vlan->id]->state)->toBe(DifferenceState::Differs)->and($of()[$vlan->id]->drifted)->toBeFalse()
        ->and(DB::table('brought')->where('server_id', $keel->id)->count())->toBe(1);
});
