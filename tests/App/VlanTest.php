<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeVlan;
use App\Acts\Directory\KeepIntent;
use App\Acts\Directory\MakeDomain;
use App\Acts\Directory\MakeServer;
use App\Acts\Directory\MakeSite;
use App\Acts\Directory\MakeVlan;
use App\Acts\Directory\MakeVlanSeries;
use App\Acts\Directory\MergeVlan;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Scan\KeepSwitchVlans;
use App\Links\DifferenceState;
use App\Links\Links;
use App\Models\Server;
use App\Models\Vlan;
use App\Queries\Reach;
use App\Queries\VlanSheet;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Facades\DB;
use Tests\Standins;
use Tests\World;

/** @return array{World, string, string} world, site, domain */
function vlans(): array
{
    $w = World::make();
    $suffix = bin2hex(random_bytes(3));
    $site = MakeSite::fromInput(['name' => "Quay $suffix"]);
    $domain = MakeDomain::fromInput(['name' => "Quay $suffix", 'site' => $site->id]);
    $w->did($site);
    $w->did($domain);

    return [$w, $site->id, $domain->id];
}

function vlan(World $w, string $domain, int $number, string $name, string $description = ''): Vlan
{
    $act = MakeVlan::fromInput(['domain' => $domain, 'number' => (string) $number, 'name' => $name, 'description' => $description]);
    $w->did($act);

    return Vlan::query()->findOrFail($act->id);
}

/** @return array<string, string> column → state */
function sheet(World $w, Vlan $vlan): array
{
    return array_map(
        fn (array $c): string => $c['state'],
        VlanSheet::of(new Collection([$vlan->refresh()->load('domain.site')]), Reach::of($w->people['planner']))[$vlan->id],
    );
}

it('checks each place where a VLAN has to be right', function (): void {
    [$w, $site, $domain] = vlans();
    $vlan = vlan($w, $domain, 110, 'TICKETING');
    $name = $vlan->domain->name;
    expect(sheet($w, $vlan))->toBe([
        'subnet' => 'missing', 'gateway' => 'idle', 'scope' => 'idle', 'relay' => 'idle', 'reach' => 'idle', 'filter' => 'idle',
        'ports' => 'idle', 'lease' => 'idle', 'switch' => 'missing',
    ]);
    $w->did(new ChangePrefix([$w->subnet->id], site: $site, vlan: $vlan->id));
    expect(sheet($w, $vlan))->toBe([
        'subnet' => 'present', 'gateway' => 'missing', 'scope' => 'present', 'relay' => 'missing', 'reach' => 'idle',
        'filter' => 'idle', 'ports' => 'idle', 'lease' => 'idle', 'switch' => 'missing',
    ]);
    $read = fn (string $switch, string $gateway, array $relays, int $ports = 4, array $denies = []) => $w->did(
        new KeepSwitchVlans([
            [
                'domain' => $name, 'number' => 110, 'name' => $switch, 'gateway' => $gateway, 'relays' => $relays, 'ports' => $ports,
                'denies' => $denies,
            ],
        ]),
    );
    $read('tickets', '192.0.2.126', ['192.0.2.67']);
    expect(sheet($w, $vlan))->toBe([
        'subnet' => 'present', 'gateway' => 'differs', 'scope' => 'present', 'relay' => 'differs', 'reach' => 'idle',
        'filter' => 'present', 'ports' => 'present', 'lease' => 'idle', 'switch' => 'differs',
    ]);
    $read('TICKETING', '192.0.2.1', ['192.0.2.67', '192.0.2.68']);
    expect(array_unique(array_values(array_diff_key(sheet($w, $vlan), ['reach' => 1, 'lease' => 1]))))->toBe(['present']);
    $read('TICKETING', '192.0.2.1', ['192.0.2.67', '192.0.2.68', '192.0.2.99']);
    expect(sheet($w, $vlan)['relay'])->toBe('differs');
    $read('TICKETING', '192.0.2.1', ['192.0.2.67', '192.0.2.68'], 0, ['192.0.2.48/28', '198.51.100.0/24']);
    expect(sheet($w, $vlan)['ports'])->toBe('missing')->and(sheet($w, $vlan)['filter'])->toBe('differs');
});

it('brings a switch in step with the plan, by rehearsal, and reads it back', function (): void {
    [$w, $site, $domain] = vlans();
    $standins = new Standins(['keel' => 'network']);
    $keel = MakeServer::fromInput([
        'name' => 'keel-'.bin2hex(random_bytes(3)), 'kind' => 'network', 'endpoint' => '127.0.0.1:9',
        'control' => '127.0.0.1:'.$standins->settings['keel']['control'], 'token' => 'secret',
    ]);
    $w->did($keel);
    DB::table('servers')->where('kind', 'network')->where('id', '!=', $keel->id)->delete();
    $vlan = vlan($w, $domain, 110, 'TICKETING');
    $other = vlan($w, $domain, 120, 'CCTV');
    $w->did(new ChangePrefix([$w->subnet->id], site: $site, vlan: $vlan->id));
    $standins->tell('keel', 'switches', ['vlans' => [
        [
            'domain' => $vlan->domain->name, 'number' => 110, 'name' => 'tickets', 'gateway' => '192.0.2.126',
            'relays' => ['192.0.2.67', '192.0.2.99'], 'ports' => 4, 'denies' => ['192.0.2.48/28', '198.51.100.0/24'],
        ],
        ['domain' => $vlan->domain->name, 'number' => 199, 'name' => 'STRAY'],
        ['domain' => 'elsewhere', 'number' => 5, 'name' => 'NOT OURS'],
    ]]);
    $server = Server::query()->findOrFail($keel->id);
    $by = collect(Links::to($server)->compare())->keyBy('id');
    expect($by[$vlan->id]->state)->toBe(DifferenceState::Differs)->and($by[$vlan->id]->removed)
        ->toBe(['name tickets', 'interface 192.0.2.126', 'relay to 192.0.2.99', 'denial of 192.0.2.48/28'])
        ->and($by[$vlan->id]->added)->toBe(['name TICKETING', 'interface 192.0.2.1', 'relay to 192.0.2.68'])
        ->and($by[$other->id]->state)->toBe(DifferenceState::Waiting)->and($by["{$vlan->domain->name} 199"]->state)
        ->toBe(DifferenceState::Gone)
        ->and($by)->toHaveCount(3);
    $this->actingAs($w->people['planner'])->get("/directory/vlan/$vlan->id")->assertSee('Set it on the switch')
        ->assertDontSee('On the switch only');
    $this->get("/ship/server/$keel->id?only=$vlan->id")->assertOk()->assertSee('relay to 192.0.2.68')->assertDontSee('STRAY');
    $this->post("/ship/server/$keel->id", ['only' => [$vlan->id]])->assertRedirect();
    expect(sheet($w, $vlan))->toBe([
        'subnet' => 'present', 'gateway' => 'present', 'scope' => 'present', 'relay' => 'present', 'reach' => 'idle',
        'filter' => 'present', 'ports' => 'present', 'lease' => 'idle', 'switch' => 'present',
    ]);
    // What is meant of its clients is brought to the filter, and what nobody means leaves it.
    $w->did(KeepIntent::fromInput(['vlans' => [$vlan->id], 'prefix' => '203.0.113.0/24']));
    $now = collect(Links::to($server)->compare())->keyBy('id')[$vlan->id];
    expect($now->added)->toBe(['denial of 203.0.113.0/24'])->and($now->removed)->toBe(['denial of 198.51.100.0/24']);
    $this->post("/ship/server/$keel->id", ['only' => [$vlan->id]])->assertRedirect();
    expect(collect($standins->tell('keel', 'vlans')['vlans'])->firstWhere('number', 110)['denies'])->toBe(['203.0.113.0/24'])
        ->and(sheet($w, $vlan)['filter'])->toBe('present')->and(sheet($w, $vlan)['reach'])->toBe('present');
    $this->post("/ship/server/$keel->id", ['removals' => '1'])->assertRedirect();
    expect(collect($standins->tell('keel', 'vlans')['vlans'])->pluck('number')->all())->toBe([110, 5]);
});

it('offers the act that mends a difference', function (): void {
    [$w, $site, $domain] = vlans();
    $vlan = vlan($w, $domain, 110, 'TICKETING');
    $w->did(new ChangePrefix([$w->subnet->id], site: $site, vlan: $vlan->id));
    $w->did(
        new KeepSwitchVlans([
            ['domain' => $vlan->domain->name, 'number' => 110, 'name' => 'tickets', 'gateway' => '192.0.2.126', 'relays' => []],
        ]),
    );
    $this->actingAs($w->people['planner']);
    $page = $this->get("/directory/vlan/$vlan->id")->assertOk()->assertSee('there it is tickets')
        ->assertSee('planned 192.0.2.1, on the switch 192.0.2.126');
    $page->assertSee('Take 192.0.2.126')->assertSee('Take tickets');
    $this->post('/act/change-vlan', ['vlan' => $vlan->id, 'name' => 'tickets', 'then' => 'commit'])->assertRedirect();
    $this
        ->post(
            '/act/change-prefix',
            ['prefixes' => [$w->subnet->id], 'gateway' => '192.0.2.126', 'then' => 'commit', 'reason' => 'as the switch has it'],
        )
        ->assertRedirect();
    expect(sheet($w, $vlan)['switch'])->toBe('present')->and(sheet($w, $vlan)['gateway'])->toBe('present');
    $this->get('/directory/vlans?filter=is:wrong')->assertOk()->assertReads('with something missing or different');
});

it('makes a series by pattern, all or none', function (string $numbers, ?array $made, ?string $code): void {
    [$w, , $domain] = vlans();
    vlan($w, $domain, 205, 'TAKEN');
    $outcome = $w->acts()->commit($w->people['planner'], [new MakeVlanSeries($domain, $numbers, 'DOOR-{n}-{i}')]);
    expect($outcome->block()?->code)->toBe($code)
        ->and(Vlan::query()->where('domain_id', $domain)->where('number', '!=', 205)->orderBy('number')->pluck('name')->all())
        ->toBe($made ?? []);
})->with([
    ['210-212', ['DOOR-210-1', 'DOOR-211-2', 'DOOR-212-3'], null],
    ['300 - 340/20, 7', ['DOOR-7-4', 'DOOR-300-1', 'DOOR-320-2', 'DOOR-340-3'], null], ['203-206', null, 'vlan-twice'],
    ['4094-4095', null, 'bad-number'],
    ['9-3', null, 'bad-numbers'], ['x', null, 'bad-numbers'], ['', null, 'bad-numbers'], ['1-600', null, 'bad-numbers'],
]);

it('wants a pattern that tells them apart', function (): void {
    [$w, , $domain] = vlans();
    expect($w->acts()->rehearse(null, [new MakeVlanSeries($domain, '1-3', 'SAME')])->block()?->code)->toBe('bad-pattern');
});

it('refuses the same number in a domain, also when it is changed or moved', function (): void {
    [$w, $site, $domain] = vlans();
    $one = vlan($w, $domain, 110, 'ONE');
    vlan($w, $domain, 120, 'TWO');
    $other = MakeDomain::fromInput(['name' => 'Other '.bin2hex(random_bytes(3)), 'site' => '']);
    $w->did($other);
    $three = vlan($w, $other->id, 120, 'THREE');
    $code = fn ($act): ?string => $w->acts()->rehearse(null, [$act])->block()?->code;
    expect($code(new ChangeVlan($one->id, number: 120)))->toBe('vlan-twice')
        ->and($code(new ChangeVlan($three->id, domain: $domain)))->toBe('vlan-twice')
        ->and($code(new ChangeVlan($one->id, name: ' ')))->toBe('no-name')
        ->and($code(new ChangeVlan($one->id, number: 5000)))->toBe('bad-number');
    $w->did(new ChangePrefix([$w->subnet->id], site: $site, vlan: $one->id));
    $elsewhere = MakeSite::fromInput(['name' => 'Else '.bin2hex(random_bytes(3))]);
    $far = MakeDomain::fromInput(['name' => 'Far '.bin2hex(random_bytes(3)), 'site' => $elsewhere->id]);
    $w->did($elsewhere);
    $w->did($far);
    expect(array_column($w->did(new ChangeVlan($one->id, domain: $far->id))->notes(), 'code'))->toContain('vlan-other-site');
});

it('finds entries that seem to be one VLAN, and merges them', function (): void {
    [$w, $site, $domain] = vlans();
    $stays = vlan($w, $domain, 110, 'TICKETING');
    $trunk = MakeDomain::fromInput(['name' => 'Trunk of '.$stays->domain->name]);
    $w->did($trunk);
    $goes = vlan($w, $trunk->id, 110, 'TICKETING');
    $w->did(new ChangePrefix([$w->subnet->id], site: $site, vlan: $goes->id));
    $pairs = array_map(fn (array $p): array => [$p[0]->id, $p[1]->id], VlanSheet::duplicates(Reach::of($w->people['planner'])));
    expect($pairs)->toContain([$stays->id, $goes->id]);
    expect($w->acts()->rehearse(null, [new MergeVlan($goes->id)])->block()?->code)->toBe('in-use');
    $w->did(new MergeVlan($goes->id, $stays->id));
    expect($w->subnet->refresh()->vlan_id)->toBe($stays->id)->and(Vlan::query()->whereKey($goes->id)->exists())->toBeFalse();
});

it('forgets what switches no longer have, and says which domains it does not know', function (): void {
    [$w, , $domain] = vlans();
    $name = vlan($w, $domain, 110, 'A')->domain->name;
    $w->did(
        new KeepSwitchVlans([
            ['domain' => $name, 'number' => 110, 'name' => 'A', 'gateway' => '', 'relays' => []],
            ['domain' => $name, 'number' => 120, 'name' => 'B', 'gateway' => '', 'relays' => []],
        ]),
    );
    $this->travel(2)->minutes();
    $outcome = $w->did(
        new KeepSwitchVlans([
            ['domain' => $name, 'number' => 110, 'name' => 'A', 'gateway' => 'x', 'relays' => []],
            ['domain' => 'nowhere', 'number' => 1, 'name' => 'x', 'gateway' => '', 'relays' => []],
        ]),
    );
    expect(array_column($outcome->notes(), 'code'))->toBe(['unknown-domain'])
        ->and(App\Models\SwitchVlan::query()->where('domain_id', $domain)->pluck('number')->all())->toBe([110]);
});
