<?php

declare(strict_types=1);

use App\Acts\Directory\GiveProfile;
use App\Acts\Directory\KeepProfile;
use App\Acts\Directory\MakeDomain;
use App\Acts\Directory\MakeServer;
use App\Acts\Directory\MakeVlan;
use App\Acts\Directory\MergeVlan;
use App\Acts\Directory\RemoveProfile;
use App\Acts\Engine\Note;
use App\Acts\Scan\KeepSwitchVlans;
use App\Links\DifferenceState;
use App\Links\Links;
use App\Links\NetworkLink;
use App\Links\Unanswered;
use App\Models\PortProfile;
use App\Models\ProfilePort;
use App\Models\Server;
use App\Models\SwitchPort;
use App\Models\Vlan;
use App\Queries\PortChecks;
use App\Queries\Reach;
use App\Queries\VlanSheet;
use Illuminate\Support\Facades\DB;
use Tests\Standins;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make(false);
    $this->domain = MakeDomain::fromInput(['name' => 'Quay '.bin2hex(random_bytes(3))]);
    $this->w->did($this->domain);
    $this->vlan = function (int $number, string $name, ?string $domain = null): string {
        $act = MakeVlan::fromInput(['domain' => $domain ?? $this->domain->id, 'number' => (string) $number, 'name' => $name]);
        $this->w->did($act);

        return $act->id;
    };
    $this->desk = ($this->vlan)(110, 'DESK');
    $this->voice = ($this->vlan)(140, 'VOICE');
    $this->keep = function (array $more = []): PortProfile {
        $act = KeepProfile::fromInput($more + [
            'domain' => $this->domain->id, 'name' => 'Desk', 'native' => $this->desk, 'voice' => $this->voice, 'lldp' => '1', 'poe' => '1',
            'priority' => '5',
        ]);
        $this->w->did($act);

        return PortProfile::query()->findOrFail($act->id);
    };
    $this->port = fn (string $port, array $more = []): array => $more + [
        'domain' => $this->domain->name, 'device' => 'sw1', 'port' => $port, 'native' => 110, 'voice' => 140, 'lldp' => true, 'poe' => true,
        'priority' => 5,
    ];
});

it('lists the ports that still lack their profile', function (): void {
    $profile = ($this->keep)();
    $this->w->did(GiveProfile::fromInput(['profile' => $profile->id, 'device' => 'sw1', 'ports' => '1-4, 9']));
    $this->w->acts()->commit(null, [new KeepSwitchVlans([], [
        ($this->port)('1'), ($this->port)('2', ['voice' => null]), ($this->port)('3', ['priority' => 0]),
        ($this->port)('4', ['domain' => 'elsewhere']), ($this->port)('7'),
    ])]);
    $check = PortChecks::of(PortProfile::query()->with(['native', 'voice', 'ports'])->get())[$profile->id];
    expect($check['right'])->toBe(['sw1 1'])
        ->and(array_column($check['lacking'], 'port'))->toBe(['sw1 2', 'sw1 3'])
        ->and($check['lacking'][0]['is'])->toBe('native 110, LLDP-MED, power, priority 5')
        ->and($check['unknown'])->toBe(['sw1 4', 'sw1 9']);
    $page = $this->actingAs($this->w->people['planner'])->get("/directory/ports?domain={$this->domain->id}")->assertOk();
    $page->assertReads('sw1 1-4, 9')->assertReads('1 without a profile')->assertReads('sw1 9 no switch has it');
    $cell = VlanSheet::of(Vlan::query()->with('domain.site')->whereKey($this->voice)->get(), Reach::of($this->w->people['planner']));
    expect($cell[$this->voice]['ports'])->toMatchArray(['state' => 'differs', 'words' => '4 of 5 lack their profile']);
    $this->actingAs($this->w->bound())->get('/directory/ports')->assertForbidden();
});

it('keeps one profile a port, and says whose it was', function (): void {
    $one = ($this->keep)();
    $two = ($this->keep)(['name' => 'Kiosk', 'voice' => '', 'lldp' => '', 'priority' => '']);
    $this->w->did(GiveProfile::fromInput(['profile' => $one->id, 'device' => 'sw1', 'ports' => '1-4']));
    $outcome = $this->w->acts()->rehearse(
        $this->w->people['planner'],
        [GiveProfile::fromInput(['profile' => $two->id, 'device' => 'sw1', 'ports' => '3-6'])],
    );
    expect(array_map(fn (Note $n): string => $n->message, $outcome->notes()))->toContain('3-4 had the profile Desk');
    $this->w->did(GiveProfile::fromInput(['profile' => $two->id, 'device' => 'sw1', 'ports' => '3-6']));
    $ports = fn (PortProfile $p): array => ProfilePort::query()->where('profile_id', $p->id)->orderBy('port')->pluck('port')->all();
    expect($ports($one))->toBe(['1', '2'])->and($ports($two))->toBe(['3', '4', '5', '6']);
    $this->w->did(GiveProfile::fromInput(['profile' => $two->id, 'device' => 'sw1', 'ports' => '1-4', 'away' => '1']));
    expect($ports($one))->toBe(['1', '2'])->and($ports($two))->toBe(['5', '6']);
    $away = ['profile' => $two->id, 'device' => 'sw1', 'ports' => '1', 'away' => '1'];
    expect($this->w->refusal(GiveProfile::class, $away))->toBe('no-such-ports');
    $this->w->did(RemoveProfile::fromInput(['profile' => $two->id]));
    expect(PortProfile::query()->count())->toBe(1)->and(ProfilePort::query()->count())->toBe(2);
});

it('refuses what cannot be meant', function (): void {
    $profile = ($this->keep)();
    $other = MakeDomain::fromInput(['name' => 'Else '.bin2hex(random_bytes(3))]);
    $this->w->did($other);
    $away = ($this->vlan)(110, 'DESK', $other->id);
    $keep = fn (array $more): ?string => $this->w->refusal(KeepProfile::class, $more + [
        'domain' => $this->domain->id, 'name' => 'New', 'native' => $this->desk,
    ]);
    expect($keep(['name' => 'Desk']))->toBe('name-taken')
        ->and($keep(['native' => $away]))->toBe('vlan-elsewhere')
        ->and($keep(['voice' => $this->desk]))->toBe('voice-is-native')
        ->and($keep(['priority' => '5']))->toBe('no-voice')
        ->and($keep(['lldp' => '1']))->toBe('no-voice')
        ->and($keep(['name' => ' ']))->toBe('no-name')
        ->and($keep(['id' => $profile->id, 'domain' => $other->id, 'native' => $away]))->toBe('other-domain')
        ->and($keep([]))->toBeNull();
    $usual = ['profile' => $profile->id, 'device' => 'sw1', 'ports' => '1'];
    $give = fn (array $more): ?string => $this->w->refusal(GiveProfile::class, $more + $usual);
    expect($give(['ports' => '9-1']))->toBe('bad-ports')->and($give(['device' => ' ']))->toBe('no-device')->and($give([]))->toBeNull()
        ->and($this->w->refusal(MergeVlan::class, ['vlan' => $this->voice]))->toBe('in-profile');
    $untold = $this->w->acts()->rehearse($this->w->people['planner'], [KeepProfile::fromInput([
        'domain' => $this->domain->id, 'name' => 'Untold', 'native' => $this->desk, 'voice' => $this->voice,
    ])]);
    expect(array_map(fn (Note $n): string => $n->code, $untold->notes()))->toContain('voice-untold');
});

it('sets ports through the switches, reads them back, and sees when somebody sets them otherwise', function (): void {
    $standins = new Standins(['keel' => 'network']);
    $keel = MakeServer::fromInput([
        'name' => 'keel-'.bin2hex(random_bytes(3)), 'kind' => 'network', 'endpoint' => '127.0.0.1:9',
        'control' => '127.0.0.1:'.$standins->settings['keel']['control'], 'token' => 'secret',
    ]);
    $this->w->did($keel);
    DB::table('servers')->where('kind', 'network')->where('id', '!=', $keel->id)->delete();
    $profile = ($this->keep)();
    $this->w->did(GiveProfile::fromInput(['profile' => $profile->id, 'device' => 'sw1', 'ports' => '1-3']));
    $standins->tell('keel', 'switches', ['ports' => [
        ['domain' => $this->domain->name, 'device' => 'sw1', 'port' => '1', 'native' => 1],
        ($this->port)('2'),
        ['domain' => $this->domain->name, 'device' => 'sw1', 'port' => '8', 'native' => 7],
    ]]);
    $server = Server::query()->findOrFail($keel->id);
    $difference = fn () => collect(Links::to($server)->compare())->firstWhere('id', $profile->id);
    expect($difference())->state->toBe(DifferenceState::Differs)->removed->toBe(['sw1 1: native 1'])
        ->added->toBe(['sw1 1: native 110, voice 140 by LLDP-MED, power, priority 5'])->message->toBe('1 port is on no switch: sw1 3');
    $this->actingAs($this->w->people['planner'])->get("/ship/server/$keel->id")->assertOk()->assertReads('sw1 1: native 1');
    $this->post("/ship/server/$keel->id", ['only' => [$profile->id]])->assertRedirect();
    expect($difference())->state->toBe(DifferenceState::Same);
    $ports = collect($standins->tell('keel', 'ports')['ports'])->keyBy('port');
    // A port without a profile, and one that no switch has, are left alone.
    expect($ports['1']['voice'])->toBe(140)->and($ports['8']['native'])->toBe(7)->and($ports)->toHaveCount(3)
        ->and(SwitchPort::query()->where('port', '1')->sole()->voice)->toBe(140);
    $standins->tell('keel', 'switches', ['ports' => [
        ['domain' => $this->domain->name, 'device' => 'sw1', 'port' => '2', 'poe' => false],
    ]]);
    expect($difference())->state->toBe(DifferenceState::Differs)->drifted->toBeTrue();
    expect(fn () => Links::to($server)->verify('profile', $profile->id))->toThrow(Unanswered::class, 'sw1 2 is native 110');
    expect(NetworkLink::to($server)->ports())->toHaveCount(3);
});
