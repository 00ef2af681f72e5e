<?php

declare(strict_types=1);

use App\Acts\Directory\KeepIntent;
use App\Acts\Directory\MakeDomain;
use App\Acts\Directory\MakeVlan;
use App\Acts\Directory\MergeVlan;
use App\Acts\Directory\RemoveIntent;
use App\Acts\Directory\SetSetting;
use App\Acts\Engine\Note;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Scan\KeepSwitchVlans;
use App\Models\SwitchVlan;
use App\Models\Vlan;
use App\Models\VlanIntent;
use App\Queries\Intents;
use App\Queries\Reach;
use App\Queries\ReachTable;
use App\Queries\SwitchIntent;
use App\Queries\VlanSheet;
use HarborPost\Core\Net\Address;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Facades\DB;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    $this->domain = MakeDomain::fromInput(['name' => 'Quay '.bin2hex(random_bytes(3))]);
    $this->w->did($this->domain);
    $this->vlan = function (int $number, string $name): Vlan {
        $act = MakeVlan::fromInput(['domain' => $this->domain->id, 'number' => (string) $number, 'name' => $name]);
        $this->w->did($act);

        return Vlan::query()->with('domain')->findOrFail($act->id);
    };
    $this->wifi = ($this->vlan)(130, 'WIFI');
    $this->cctv = ($this->vlan)(120, 'CCTV');
    $this->w->did(ChangePrefix::fromInput(['prefixes' => [$this->w->subnet->id], 'vlan' => $this->wifi->id]));
    $this->camera = $this->w->carve('198.51.100.0/26', ['name' => 'Cameras', 'stage' => 'live']);
    $this->w->did(ChangePrefix::fromInput(['prefixes' => [$this->camera->id], 'vlan' => $this->cctv->id]));
    $this->say = fn (array $input) => $this->w->did(KeepIntent::fromInput($input));
    $this->codes = fn (array $input): array => array_map(
        fn (Note $n): string => $n->code,
        $this->w->acts()->rehearse($this->w->people['planner'], [KeepIntent::fromInput($input)])->notes(),
    );
    $this->cell = fn (Vlan $vlan, string $column): array => VlanSheet::of(
        new Collection([$vlan->refresh()->load('domain.site')]),
        Reach::of($this->w->people['planner']),
    )[$vlan->id][$column];
    $this->read = fn (Vlan $vlan, array $denies) => $this->w->acts()->commit(null, [new KeepSwitchVlans([[
        'domain' => $vlan->domain->name, 'number' => $vlan->number, 'name' => $vlan->name, 'gateway' => '', 'relays' => [], 'ports' => 4,
        'denies' => $denies,
    ]])]);
});

it('says for many VLANs at once what they may reach, one rule for each pair', function (): void {
    $more = ($this->vlan)(131, 'WIFI-2');
    ($this->say)(['vlans' => [$this->wifi->id, $more->id], 'to' => $this->cctv->id, 'why' => 'privacy']);
    ($this->say)(['vlans' => [$this->wifi->id], 'to' => $this->cctv->id, 'allows' => 'yes']);
    expect(VlanIntent::query()->count())->toBe(2)
        ->and(VlanIntent::query()->where('vlan_id', $this->wifi->id)->sole()->line())->toBe('130 WIFI may reach 120 CCTV')
        ->and(VlanIntent::query()->where('vlan_id', $more->id)->sole()->allows)->toBeFalse();
    $at = Address::parse('198.51.100.9');
    $intents = Intents::of([$this->wifi->id, $more->id]);
    expect($intents[$more->id]->at($at)->allows)->toBeFalse()->and($intents[$this->wifi->id]->at($at)->allows)->toBeTrue();
    $page = $this->actingAs($this->w->people['reader'])->get("/directory/reach?domain={$this->domain->id}")->assertOk();
    $page->assertReads('131 WIFI-2')->assertSee('shut');
    $this->actingAs($this->w->people['planner'])->get("/directory/vlan/{$more->id}")->assertOk()
        ->assertReads('131 WIFI-2 may not reach 120 CCTV: privacy');
    $this->actingAs($this->w->bound())->get('/directory/reach')->assertForbidden();
});

it('shows of each pair what all rules together make of it', function (): void {
    $third = ($this->vlan)(140, 'VOICE');
    $two = $this->w->carve('198.51.100.128/25', ['name' => 'Phones', 'stage' => 'live']);
    $this->w->did(ChangePrefix::fromInput(['prefixes' => [$two->id], 'vlan' => $third->id]));
    ($this->say)(['vlans' => [$this->wifi->id], 'prefix' => '198.51.100.0/24']);
    ($this->say)(['vlans' => [$this->wifi->id], 'to' => $third->id, 'allows' => 'yes']);
    ($this->say)(['vlans' => [$third->id], 'prefix' => '198.51.100.0/27']);
    $vlans = Vlan::query()->where('domain_id', $this->domain->id)->get();
    $rules = Intents::naming($vlans->modelKeys());
    $table = ReachTable::of($vlans, $rules);
    expect($table[$this->wifi->id][$this->cctv->id])->toMatchArray(['state' => 'shut', 'said' => false])
        ->and($table[$this->wifi->id][$third->id])->toMatchArray(['state' => 'open', 'said' => true])
        ->and($table[$third->id][$this->cctv->id])->toMatchArray(['state' => 'part', 'said' => false])
        ->and($table[$this->cctv->id] ?? [])->toBe([]);
    ($this->say)([
        'vlans' => [$this->wifi->id], 'prefix' => '198.51.100.5', 'allows' => 'yes', 'days' => ['1'], 'starts' => '07:00', 'minutes' => 60,
    ]);
    expect(ReachTable::of($vlans, Intents::naming($vlans->modelKeys()))[$this->wifi->id][$this->cctv->id]['state'])->toBe('times');
});

it('refuses what cannot be meant', function (): void {
    $refusal = fn (array $input): ?string => $this->w->refusal(KeepIntent::class, $input + ['vlans' => [$this->wifi->id]]);
    expect($refusal([]))->toBe('one-target')
        ->and($refusal(['to' => $this->cctv->id, 'prefix' => '10.0.0.0/8']))->toBe('one-target')
        ->and($refusal(['to' => $this->wifi->id]))->toBe('same-vlan')
        ->and($refusal(['prefix' => '10.0.0.1/8']))->toBe('not-a-prefix')
        ->and($refusal(['to' => $this->cctv->id, 'days' => ['8'], 'starts' => '07:00', 'minutes' => 60]))->toBe('bad-window')
        ->and($refusal(['to' => $this->cctv->id, 'days' => ['1'], 'starts' => 'dawn', 'minutes' => 60]))->toBe('bad-window')
        ->and($this->w->refusal(KeepIntent::class, ['vlans' => [], 'to' => $this->cctv->id]))->toBe('no-vlan')
        ->and($refusal(['prefix' => '192.0.2.7']))->toBeNull();
});

it('leaves open what clients need, and says so before it is saved', function (): void {
    $set = ['layer' => 'prefix', 'object' => $this->camera->id, 'key' => 'resolvers', 'value' => '203.0.113.53'];
    $this->w->did(SetSetting::fromInput($set));
    expect(($this->codes)(['vlans' => [$this->cctv->id], 'prefix' => '203.0.113.0/24']))->toContain('intent-cuts')
        ->and(($this->codes)(['vlans' => [$this->cctv->id], 'prefix' => '198.51.100.0/24']))->not->toContain('intent-cuts');
    ($this->say)(['vlans' => [$this->cctv->id], 'prefix' => '203.0.113.0/24']);
    $intent = SwitchIntent::of(new Collection([$this->cctv]))[$this->cctv->id];
    expect($intent->denials())->not->toContain('203.0.113.0/24')->and(implode(' ', $intent->denials() ?? []))->toContain('203.0.113.54/31')
        ->and($intent->hides($intent->denials() ?? [], '203.0.113.53'))->toBeFalse()
        ->and($intent->hides($intent->denials() ?? [], '203.0.113.52'))->toBeTrue()
        ->and(($this->cell)($this->cctv, 'reach')['state'])->toBe('differs');
    $this->actingAs($this->w->people['planner'])->get("/directory/vlan/{$this->cctv->id}")->assertOk()
        ->assertReads('203.0.113.53 resolver shut: left open in the filter all the same');
});

it('compares the filter on the switch with what is meant, as addresses and not as text', function (): void {
    ($this->read)($this->cctv, ['10.0.0.0/9', '10.128.0.0/9']);
    expect(($this->cell)($this->cctv, 'filter')['words'])->toBe('denies 2, none needed');
    ($this->say)(['vlans' => [$this->cctv->id], 'prefix' => '10.0.0.0/8']);
    expect(($this->cell)($this->cctv, 'filter'))->toMatchArray(['state' => 'present', 'words' => 'denies what is meant']);
    ($this->say)(['vlans' => [$this->cctv->id], 'prefix' => '172.16.0.0/12']);
    expect(($this->cell)($this->cctv, 'filter')['words'])->toBe('leaves open 172.16.0.0/12');
    ($this->read)($this->cctv, ['10.0.0.0/8', '172.16.0.0/12', '192.168.0.0/16']);
    expect(($this->cell)($this->cctv, 'filter')['words'])->toBe('denies 192.168.0.0/16 besides');
    // A rule of a time of the week is in no filter, and said.
    $timed = ['vlans' => [$this->cctv->id], 'prefix' => '192.168.0.0/16', 'days' => ['6', '7'], 'starts' => '00:00', 'minutes' => 1440];
    expect(($this->codes)($timed))->toContain('no-clock-in-filter');
    ($this->say)($timed);
    expect(($this->cell)($this->cctv, 'filter')['words'])->toBe('denies 192.168.0.0/16 besides');
});

it('is taken back, and follows a VLAN that is merged', function (): void {
    ($this->say)(['vlans' => [$this->wifi->id], 'to' => $this->cctv->id]);
    ($this->say)(['vlans' => [$this->cctv->id], 'prefix' => '10.0.0.0/8']);
    $other = ($this->vlan)(121, 'CCTV-2');
    $this->w->did(MergeVlan::fromInput(['vlan' => $this->cctv->id, 'into' => $other->id]));
    expect(VlanIntent::query()->where('vlan_id', $this->wifi->id)->sole()->to_vlan_id)->toBe($other->id)
        ->and(VlanIntent::query()->where('vlan_id', $other->id)->sole()->to_prefix)->toBe('10.0.0.0/8');
    // Into the one it speaks of, it would speak of itself.
    $this->w->did(MergeVlan::fromInput(['vlan' => $other->id, 'into' => $this->wifi->id]));
    expect(VlanIntent::query()->sole()->vlan_id)->toBe($this->wifi->id);
    $this->w->did(RemoveIntent::fromInput(['intents' => VlanIntent::query()->pluck('id')->all()]));
    expect(VlanIntent::query()->count())->toBe(0)
        ->and($this->w->refusal(RemoveIntent::class, ['intents' => [(string) Illuminate\Support\Str::ulid()]]))->toBe('not-available');
});

it('marks a VLAN quiet only by what its servers said when they were read', function (): void {
    $this->w->did(ChangePrefix::fromInput(['prefixes' => [$this->w->subnet->id], 'stage' => 'live']));
    $server = $this->w->scope->placements->first()?->server_id;
    DB::table('scopes')->where('id', $this->w->scope->id)->update(['lease_time' => 3600, 'stage' => 'live']);
    DB::table('leases')->insert([
        'server_id' => $server, 'scope_id' => $this->w->scope->id, 'address' => inet_pton('192.0.2.40'), 'mac' => hex2bin('020000000001'),
        'state' => 'ended', 'starts_at' => now()->subHours(9), 'ends_at' => now()->subHours(8),
    ]);
    $read = fn (int $hours) => DB::table('server_states')
        ->updateOrInsert(['server_id' => $server], ['leases_read_at' => now()->subHours($hours)]);
    $read(8);
    expect(($this->cell)($this->wifi, 'lease')['words'])->toBe('9 hours ago');
    $read(1);
    $cell = ($this->cell)($this->wifi, 'lease');
    expect($cell['words'])->toBe('quiet: 9 hours ago')->and(VlanSheet::wrong(['x' => ['lease' => $cell]]))->toBe([]);
    expect(SwitchVlan::query()->count())->toBe(0);
});
