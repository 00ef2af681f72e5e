<?php

declare(strict_types=1);

use App\Acts\Directory\MakeServer;
use App\Acts\Directory\SetSetting;
use App\Acts\Plan\PlaceHost;
use App\Acts\Plan\PlaceSeveral;
use App\Acts\Scan\CancelScan;
use App\Acts\Scan\KeepScan;
use App\Acts\Scan\StartScan;
use App\Acts\Scan\TakeSightings;
use App\Jobs\RunScan;
use App\Live\ScanPreflight;
use App\Models\Host;
use App\Models\Record;
use App\Models\RunState;
use App\Models\Scan;
use App\Models\ScanSchedule;
use App\Models\Server;
use App\Shipping\Shipping;
use HarborPost\Core\Net\Address;
use Illuminate\Support\Facades\DB;
use Tests\Standins;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    $this->s = new Standins(['ns1' => 'dns', 'keel' => 'network']);
    $keel = MakeServer::fromInput([
        'name' => 'keel-'.bin2hex(random_bytes(3)), 'kind' => 'network', 'endpoint' => '127.0.0.1:9',
        'control' => '127.0.0.1:'.$this->s->settings['keel']['control'], 'token' => 'secret',
    ]);
    $this->w->did($keel);
    DB::table('servers')->where('kind', 'network')->where('id', '!=', $keel->id)->delete();
    $this->w->did(
        new App\Acts\Directory\ChangeServer(
            $this->w->servers['ns1'],
            $this->s->endpoint('ns1'),
            '127.0.0.1:'.$this->s->settings['ns1']['control'],
            'secret',
        ),
    );
    $this->w->did(new SetSetting('prefix', 'resolvers', $this->w->top->id, '192.0.2.53'));
    $this->see = fn (array $hosts) => $this->s->tell('keel', 'hosts', ['hosts' => $hosts]);
    $this->scan = function (array $more = []): Scan {
        $act = StartScan::fromInput($more + ['space' => $this->w->space->id, 'prefixes' => [$this->w->subnet->id]]);
        $this->w->did($act);
        (new RunScan($act->id))->handle($this->w->acts());

        return Scan::query()->findOrFail($act->id);
    };
    $this->found = fn (Scan $scan): array => DB::table('scan_results')->where('scan_id', $scan->id)->orderBy('address')
        ->get()
        ->mapWithKeys(fn (object $r): array => [(string) Address::fromBytes((string) $r->address) => $r->verdict])
        ->all();
    config(['harbor.patience' => 1.0]);
});

it('compares who answers with the plan', function (): void {
    $w = $this->w;
    $w->did(
        PlaceSeveral::fromInput([
            'prefix' => $w->subnet->id,
            'names' => "good 00:00:5e:00:53:01\nother 00:00:5e:00:53:02\nsilent 00:00:5e:00:53:03\nrenamed 00:00:5e:00:53:04",
            'zone' => $w->zone->id,
            'ptr' => '1',
        ]),
    );
    $w->did(
        PlaceHost::fromInput(['prefix' => $w->subnet->id, 'name' => 'nopointer', 'zone' => $w->zone->id, 'mac' => '00:00:5e:00:53:05']),
    );
    app(Shipping::class)->ship(null, Server::query()->findOrFail($w->servers['ns1']));
    DB::table('addresses')->where('name', 'like', 'renamed%')->update(['name' => 'before.example']);
    ($this->see)([
        ['address' => '192.0.2.1', 'mac' => '00:00:5e:00:01:01'], ['address' => '192.0.2.2', 'mac' => '00:00:5e:00:53:01'],
        ['address' => '192.0.2.3', 'mac' => '00:00:5e:00:53:99'], ['address' => '192.0.2.5', 'mac' => '00:00:5e:00:53:04'],
        ['address' => '192.0.2.6', 'mac' => '00:00:5e:00:53:05'], ['address' => '192.0.2.40', 'mac' => '00:00:5e:00:53:40'],
        ['address' => '192.0.2.41', 'mac' => '', 'until' => time() - 5],
    ]);
    $scan = ($this->scan)();
    expect($scan->state)->toBe(RunState::Done)->and($scan->done)->toBe(126)->and($scan->answered)->toBe(6)
        ->and(($this->found)($scan))->toBe([
            '192.0.2.1' => 'agrees', '192.0.2.2' => 'agrees', '192.0.2.3' => 'other-mac', '192.0.2.4' => 'silent',
            '192.0.2.5' => 'other-name', '192.0.2.6' => 'no-ptr', '192.0.2.40' => 'unknown',
        ])
        ->and(DB::table('sightings')->where('space_id', $w->space->id)->count())->toBe(6);
    // Later the silent one answers, and the stray is gone: what was seen stays known with its time.
    ($this->see)([['address' => '192.0.2.4', 'mac' => '00:00:5e:00:53:03'], ['address' => '192.0.2.40', 'gone' => true]]);
    $again = ($this->scan)();
    expect(($this->found)($again)['192.0.2.4'])->toBe('agrees')->and(($this->found)($again))->not->toHaveKey('192.0.2.40');
});

it('takes in what is chosen, field by field, and never unasked', function (): void {
    $w = $this->w;
    $w->did(
        PlaceSeveral::fromInput([
            'prefix' => $w->subnet->id, 'names' => "other 00:00:5e:00:53:02\nquiet 00:00:5e:00:53:03", 'zone' => $w->zone->id,
            'ptr' => '1',
        ]),
    );
    $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'name' => 'nopointer', 'zone' => $w->zone->id]));
    app(Shipping::class)->ship(null, Server::query()->findOrFail($w->servers['ns1']));
    ($this->see)([
        ['address' => '192.0.2.2', 'mac' => '00:00:5e:00:53:99'],
        ['address' => '192.0.2.4', 'mac' => '00:00:5e:00:53:44'],
        ['address' => '192.0.2.40', 'mac' => '00:00:5e:00:53:40'],
    ]);
    $scan = ($this->scan)();
    $all = DB::table('scan_results')->where('scan_id', $scan->id)->pluck('id')->map(strval(...))->all();
    expect($w->acts()->rehearse(null, [new TakeSightings($scan->id, $all)])->block()?->code)->toBe('nothing-chosen')
        ->and($w->acts()->rehearse(null, [new TakeSightings($scan->id, [], place: true)])->block()?->code)
        ->toBe('nothing-picked');
    $w->did(new TakeSightings($scan->id, $all, place: true));
    expect((string) Host::query()->where('address', Address::parse('192.0.2.40')->bytes)->where('space_id', $w->space->id)->sole()->mac)
        ->toBe('00:00:5e:00:53:40')
        ->and((string) Host::query()->where('address', Address::parse('192.0.2.2')->bytes)->where('space_id', $w->space->id)->sole()->mac)
        ->toBe('00:00:5e:00:53:02');
    $w->did(new TakeSightings($scan->id, $all, macs: true, ptrs: true));
    expect((string) Host::query()->where('address', Address::parse('192.0.2.2')->bytes)->where('space_id', $w->space->id)->sole()->mac)
        ->toBe('00:00:5e:00:53:99')
        ->and(Record::query()->where('zone_id', $w->reverse->id)->where('owner', '4.2.0.192.in-addr.arpa.')->count())
        ->toBe(1);
    $w->did(new TakeSightings($scan->id, $all, release: true));
    expect(Host::query()->where('name', 'like', 'quiet%')->where('space_id', $w->space->id)->exists())->toBeFalse()
        ->and(Host::query()->where('name', 'like', 'other%')->where('space_id', $w->space->id)->exists())->toBeTrue();
});

it('leaves out runs, and goes on where it stopped', function (): void {
    $w = $this->w;
    ($this->see)([['address' => '192.0.2.10', 'mac' => '00:00:5e:00:53:10'], ['address' => '192.0.2.90', 'mac' => '00:00:5e:00:53:90']]);
    $scan = ($this->scan)(['leftOut' => ['192.0.2.80-192.0.2.99']]);
    expect(array_keys(($this->found)($scan)))->toBe(['192.0.2.10'])->and($scan->total)->toBe(106);
    $big = $w->carve('10.70.0.0/20', ['name' => 'Big']);
    ($this->see)(
        array_map(
            fn (int $i): array => ['address' => (string) Address::parse('10.70.0.0')->plus($i * 100), 'mac' => '00:00:5e:00:53:10'],
            range(1, 40),
        ),
    );
    $act = StartScan::fromInput(['space' => $w->space->id, 'prefixes' => [$big->id]]);
    $w->did($act);
    // Another worker was cut off after two steps.
    $w->did(new KeepScan($act->id, RunState::Running, 2048));
    (new RunScan($act->id))->handle($w->acts());
    $half = Scan::query()->findOrFail($act->id);
    expect($half->state)->toBe(RunState::Done)->and($half->done)->toBe(4094)
        ->and(DB::table('scan_results')->where('scan_id', $act->id)->count())->toBe(20);
});

it('is cancelled between two steps', function (): void {
    $act = StartScan::fromInput(['space' => $this->w->space->id, 'prefixes' => [$this->w->subnet->id]]);
    $this->w->did($act);
    $this->w->did(new CancelScan($act->id));
    (new RunScan($act->id))->handle($this->w->acts());
    expect(Scan::query()->findOrFail($act->id)->state)->toBe(RunState::Cancelled)
        ->and($this->w->acts()->rehearse(null, [new CancelScan($act->id)])->block()?->code)->toBe('scan-over');
});

it('says before it runs what is missing, and after it failed where it stopped', function (): void {
    $w = $this->w;
    $of = fn (): array => array_column(ScanPreflight::of(collect([$w->subnet]), []), 'ok', 'what');
    expect($of())->toBe(['Somebody probes' => true, 'Prefixes' => true, 'Names are asked' => true, 'No other scan' => true]);
    $this->s->stop('ns1');
    expect($of()['Names are asked'])->toBeFalse();
    $this->s->stop('keel');
    $checks = ScanPreflight::of(collect(), ['x']);
    expect($of()['Somebody probes'])->toBeFalse()->and(array_column($checks, 'ok', 'what')['Prefixes'])->toBeFalse();
    $scan = ($this->scan)();
    expect($scan->state)->toBe(RunState::Failed)->and($scan->message)->toContain('cannot be reached');
    $this->actingAs($w->people['operator'])->post("/plan/{$w->space->id}/scans", ['prefixes' => [$w->subnet->id]])->assertSessionHas('bad');
});

it('shows scans, their results and their schedules, and runs from the page', function (): void {
    $w = $this->w;
    ($this->see)([['address' => '192.0.2.40', 'mac' => '00:00:5e:00:53:40']]);
    $this->actingAs($w->people['operator']);
    $this->get("/plan/{$w->space->id}/scans?prefixes[]={$w->subnet->id}")->assertOk()->assertSee('Before it runs')
        ->assertSee('126 addresses in 1 subnet')->assertSee('Scan now');
    $this->get("/plan/{$w->space->id}/scans?look=1&also=192.0.2.0/24")->assertOk()->assertSee('126 addresses');
    $this->post("/plan/{$w->space->id}/scans", ['prefixes' => [$w->subnet->id]])->assertRedirect();
    $scan = Scan::query()->orderByDesc('id')->firstOrFail();
    $this->get("/plan/scan/$scan->id")->assertOk()->assertSee('192.0.2.40')->assertSee('1 unknown')->assertSee('Take in');
    $this
        ->post(
            "/plan/{$w->space->id}/scans",
            [
                'prefixes' => [$w->subnet->id], 'every' => 'day', 'hour' => (string) now()->format('G'),
                'leftOut' => "192.0.2.80-192.0.2.90\n192.0.2.99",
            ],
        )
        ->assertRedirect();
    expect(ScanSchedule::query()->where('space_id', $w->space->id)->sole()->left_out)->toBe(['192.0.2.80-192.0.2.90', '192.0.2.99']);
    $count = Scan::query()->count();
    expect(Illuminate\Support\Facades\Artisan::call('scans:due'))->toBe(0);
    expect(Illuminate\Support\Facades\Artisan::call('scans:due'))->toBe(0);
    expect(Scan::query()->count())->toBe($count + 1);
    $this->actingAs($w->people['reader'])->get("/plan/{$w->space->id}/scans")->assertForbidden();
});

it('asks IPv6 only for what is known', function (): void {
    $w = $this->w;
    $six = $w->carve('2001:db8:5::/64', ['gateway' => '2001:db8:5::1']);
    $w->did(PlaceHost::fromInput(['prefix' => $six->id, 'address' => '2001:db8:5::9']));
    $w->did(PlaceHost::fromInput(['prefix' => $six->id, 'address' => '2001:db8:5::a']));
    ($this->see)([['address' => '2001:db8:5::9', 'mac' => '00:00:5e:00:53:09']]);
    $scan = ($this->scan)(['prefixes' => [$six->id]]);
    expect(($this->found)($scan))->toBe(['2001:db8:5::9' => 'agrees', '2001:db8:5::a' => 'silent'])->and($scan->total)->toBe(2);
});

it('drops no line that was typed for a scan', function (): void {
    $w = World::make(false);
    $w->carve('192.0.2.128/26', ['name' => 'Later', 'stage' => 'planned']);
    $page = fn (string $also) => $this->actingAs($w->people['operator'])
        ->get("/plan/{$w->space->id}/scans?look=1&also=".urlencode($also))->assertOk();
    $page("banana\n192.0.2.0/25")->assertSee('banana')->assertSee('126 addresses in 1 subnet');
    $page('192.0.2.5/25')->assertSee('Perhaps 192.0.2.0/25 is meant');
    $page('192.0.2.128/26')->assertSee('none of the 1 subnets in it is live');
    $this->post("/plan/{$w->space->id}/scans", ['also' => "banana\n192.0.2.0/25"])->assertSessionHas('bad');
    expect(App\Models\Scan::query()->where('space_id', $w->space->id)->count())->toBe(0);
});
