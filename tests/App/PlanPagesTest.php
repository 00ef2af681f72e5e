<?php

declare(strict_types=1);

use App\Acts\Directory\ImportVlans;
use App\Acts\Directory\MakeDomain;
use App\Acts\Directory\MakeSite;
use App\Acts\Directory\MakeTenant;
use App\Acts\Directory\MakeVlan;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\PlaceHost;
use App\Models\Import;
use App\Models\ImportState;
use App\Models\Prefix;
use App\Models\Vlan;
use App\Queries\Forecasts;
use App\Queries\PrefixPage;
use App\Queries\Reach;
use App\Queries\RulerRows;
use App\View\Block;
use App\View\ForecastWords;
use App\View\Ruler;
use HarborPost\Core\Planning\Trend;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Tests\World;

it('computes any prefix on a page with an address of its own', function (string $text, array $sees): void {
    $w = World::make(false);
    $page = $this->actingAs($w->people['reader'])->get('/plan/calculator?p='.urlencode($text))->assertOk();
    foreach ($sees as $one) {
        $page->assertSee($one, false);
    }
})->with([
    ['', ['Type a prefix']],
    ['192.0.2.9/25', ['read as the network of 192.0.2.9', '192.0.2.0/25', '255.255.255.128', '192.0.2.128/25', 'Quay', 'Ticketing']],
    ['192.0.2.0 255.255.255.0', ['2.0.192.in-addr.arpa', 'c0000200', '3221225984']],
    ['10.0.0.1-10.0.0.6', ['no prefix', '10.0.0.2/31', '10.0.0.4/31', '10.0.0.6/32']],
    ['2001:db8::/48', ['0.0.0.0.8.b.d.0.1.0.0.2.ip6.arpa', '2001:db8::/49']],
    ['10.0.0.0 255.255.250', ['Not understood']],
    ['10.0.0.300', ['Not understood', 'octet']],
    ['192.0.2.0/24&split=26', ['Not understood']],
]);

it('splits on the calculator', function (): void {
    $w = World::make(false);
    $this->actingAs($w->people['reader'])->get('/plan/calculator?p=192.0.2.0/24&split=26')->assertSee('192.0.2.192/26')
        ->assertSee('192.0.2.193-192.0.2.254')->assertSee('62');
    $this->get('/plan/calculator?p=10.0.0.0/8&split=24')->assertSee('the first 256 of 65,536');
    $this->get('/plan/calculator?p=10.0.0.0/8&split=4')->assertOk();
});

it('shows nobody what is not theirs on the calculator', function (): void {
    $w = World::make(false);
    $tenant = MakeTenant::fromInput(['name' => 'T '.bin2hex(random_bytes(3))]);
    $w->did($tenant);
    $own = $w->carve('192.0.2.128/26', ['name' => 'Theirs', 'tenant' => $tenant->id]);
    $page = $this->actingAs($w->person('t-'.bin2hex(random_bytes(3)), ['tenant-admin'], $tenant->id))
        ->get('/plan/calculator?p=192.0.2.0/24');
    $page->assertSee('Theirs')->assertDontSee('Ticketing')->assertDontSee('Quay</a>', false);
    $this->get('/plan/summary?tag=x')->assertOk();
    $this->get("/plan/prefix/$own->id/print")->assertOk();
    $this->get("/plan/prefix/{$w->subnet->id}/print")->assertNotFound();
    $this->get("/plan/prefix/{$w->subnet->id}/addresses.csv")->assertNotFound();
});

it('summarises a site with all inside it, a tag, with a tolerance', function (): void {
    $w = World::make(false);
    $outer = MakeSite::fromInput(['name' => 'Outer '.bin2hex(random_bytes(3))]);
    $inner = MakeSite::fromInput(['name' => 'Inner '.bin2hex(random_bytes(3)), 'parent' => $outer->id]);
    $w->did($outer);
    $w->did($inner);
    $w->carve('192.0.2.128/26', ['site' => $outer->id, 'tags' => 'edge']);
    $w->did(new ChangePrefix([$w->subnet->id], site: $inner->id));
    $this->actingAs($w->people['planner']);
    $this->get("/plan/summary?site=$outer->id")->assertSee('192.0.2.0/25')->assertSee('192.0.2.128/26')->assertSee('2 exactly');
    $this->get("/plan/summary?site=$outer->id&tolerance=34")->assertSee('192.0.2.0/24')->assertSee('33.3 % more covered');
    $this->get('/plan/summary?tag=edge')->assertSee('192.0.2.128/26')->assertDontSee('192.0.2.0/25');
    $this->get('/plan/summary')->assertSee('Choose a site');
    $this->get('/plan/summary?tag=none')->assertSee('Nothing is planned there');
});

it('gives out what it takes in, as CSV and as JSON', function (): void {
    $w = World::make(false);
    $tenant = MakeTenant::fromInput(['name' => 'Tenant '.bin2hex(random_bytes(3))]);
    $w->did($tenant);
    $w->did(
        new ChangePrefix(
            [$w->subnet->id],
            role: 'voice',
            tags: 'lab, quay',
            tenant: $tenant->id,
            description: 'with "quotes", and ünïcode',
        ),
    );
    $w->did(new ChangePrefix([$w->top->id], origin: 'Registry', originOn: '2020-02-29', originHandle: 'Q-1'));
    $w->did(
        PlaceHost::fromInput([
            'prefix' => $w->subnet->id, 'name' => 'till', 'zone' => $w->zone->id, 'mac' => '00:00:5e:00:53:01', 'owner' => 'Sales',
            'interface' => 'eth0', 'role' => 'service',
        ]),
    );
    $this->actingAs($w->people['planner']);
    $json = $this->get("/plan/{$w->space->id}/export.json")->assertOk()->streamedContent();
    $data = json_decode($json, true);
    expect($data)->toHaveCount(3)->and($data[1]['tags'])->toBe(['lab', 'quay'])->and($data[0]['origin_on'])
        ->toBe('2020-02-29')->and($data[2]['owner'])->toBe('Sales');
    // Into an empty space and out again: the same bytes.
    $other = App\Acts\Directory\MakeSpace::fromInput(['name' => 'Copy '.bin2hex(random_bytes(3))]);
    $w->did($other);
    $id = App\Models\Space::query()->where('name', $other->name)->value('id');
    $this
        ->post('/import', ['kind' => 'plan', 'target' => $id, 'file' => UploadedFile::fake()->createWithContent('plan.json', $json)])
        ->assertRedirect();
    $import = Import::query()->orderByDesc('id')->firstOrFail();
    expect($import->state)->toBe(ImportState::Judged)->and($import->counts['add'])->toBe(3)->and($import->counts['refused'] ?? 0)->toBe(0);
    $this->post("/import/$import->id/take-over")->assertRedirect();
    // the name stands in its zone once, with the host of the other space
    expect($this->get("/plan/$id/export.json")->streamedContent())->toBe((string) preg_replace('/"zone":"[^"]+"/', '"zone":"-"', $json));
    $csv = $this->get("/plan/$id/export.csv")->streamedContent();
    expect($csv)->toContain('"lab, quay"')->toContain('2020-02-29')->toContain('eth0');
});

it('names what is wrong with a JSON plan', function (string $json, string $says): void {
    $w = World::make(false);
    $this->actingAs($w->people['planner'])
        ->post(
            '/import',
            ['kind' => 'plan', 'target' => $w->space->id, 'file' => UploadedFile::fake()->createWithContent('plan.json', $json)],
        )
        ->assertRedirect();
    $import = Import::query()->orderByDesc('id')->firstOrFail();
    expect(
        $import->state->value
            .' '
            .$import->message
            .' '
            .implode(' ', DB::table('import_rows')->where('import_id', $import->id)->pluck('reason')->all()),
    )->toContain($says);
})->with([
    ['[{"prefix": "10.9.0.0/24", "colour": "red"}]', 'unknown key "colour"'], ['[1]', 'Entry 1 is no object'],
    ['[{"prefix": ', 'no JSON'], ['[{"prefix": "10.9.0.1/24"}]', 'write 10.9.0.0/24'],
    ['[{"prefix": "10.9.0.0/24", "origin_on": "2020-02-30"}]', 'a date as'],
    ['[{"prefix": "10.9.0.0/24", "tenant": "nobody"}]', 'tenant "nobody"'],
    ['[{"address": "192.0.2.9", "role": "king"}]', 'Role: "king"'],
    ['{"prefixes": [{"prefix": "10.9.0.0/24", "kind": "thing"}]}', 'Kind: "thing"'],
]);

it('takes VLANs in from a table and gives them out', function (): void {
    $w = World::make(false);
    $domain = MakeDomain::fromInput(['name' => 'Dock '.bin2hex(random_bytes(3))]);
    $w->did($domain);
    $w->did(MakeVlan::fromInput(['domain' => $domain->id, 'number' => '10', 'name' => 'OLD']));
    $w->did(new ImportVlans("domain,number,name,description\n$domain->name,10,NEW,\n$domain->name,20,\"B, C\",x\n"));
    expect(Vlan::query()->where('domain_id', $domain->id)->orderBy('number')->pluck('name', 'number')->all())->toBe([
        10 => 'NEW',
        20 => 'B, C',
    ]);
    $w->did(new ImportVlans(json_encode([['domain' => strtoupper($domain->name), 'number' => 30, 'name' => 'D']])));
    $this->actingAs($w->people['planner']);
    expect($this->get('/plan/vlans.csv')->streamedContent())->toContain("\"$domain->name\",,20,\"B, C\",x")
        ->and(json_decode($this->get('/plan/vlans.json')->streamedContent(), true))->toBeArray();
    foreach (
        [
            "domain,number\nnowhere,1" => 'no-domain', "domain,number\n$domain->name,x" => 'bad-number',
            "domain,number,name\n$domain->name,1,A\n$domain->name,1,B" => 'line-twice',
            "domain,number,name\n$domain->name,1," => 'no-name', 'a,b' => 'bad-table', '[1]' => 'bad-table', '' => 'bad-table',
            "domain,number,name\n$domain->name,4095,A" => 'bad-number',
        ] as $table => $code
    ) {
        expect($w->acts()->rehearse(null, [new ImportVlans((string) $table)])->block()?->code)->toBe($code, (string) $table);
    }
});

it('prints a plan with ruler and tables', function (): void {
    $w = World::make(false);
    $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => '192.0.2.9', 'name' => 'till']));
    $this->actingAs($w->people['reader']);
    $this->get("/plan/prefix/{$w->top->id}/print")->assertOk()->assertSee('Ruler of')->assertSee('192.0.2.0/25')->assertSee('Ticketing');
    $this->get("/plan/prefix/{$w->subnet->id}/print")->assertOk()->assertSee('192.0.2.9');
    expect($this->get("/plan/prefix/{$w->subnet->id}/addresses.csv")->streamedContent())->toContain('192.0.2.9,till')
        ->and(json_decode($this->get("/plan/prefix/{$w->subnet->id}/addresses.json")->streamedContent(), true)[0]['name'])
        ->toBe('till');
});

it('lights up on the ruler what a filter finds, at every depth', function (): void {
    $w = World::make(false);
    $holder = $w->carve('192.0.2.128/25', ['kind' => 'supernet', 'name' => 'Holder']);
    $w->carve('192.0.2.160/27', ['name' => 'Deep', 'tags' => 'needle']);
    $reach = Reach::of($w->people['planner']);
    $look = fn (string $filter): array => array_map(
        fn (Block $b): string => $b->kind.' '.(str_contains($b->look, 'lit') ? 'lit' : (str_contains($b->look, 'dim') ? 'dim' : '')),
        Ruler::of(RulerRows::of($w->top->refresh(), $reach), null, [], (new PrefixPage($reach))->found($w->top, $filter))->blocks,
    );
    expect($look('tag:needle'))->toBe(['prefix dim', 'prefix lit'])->and($look('Ticketing'))
        ->toBe(['prefix lit', 'prefix dim'])->and($look(''))->toBe(['prefix ', 'prefix ']);
    $page = $this->actingAs($w->people['planner'])->get("/plan/prefix/{$w->top->id}?filter=tag:needle")->assertOk();
    $page->assertSee('Deep')->assertSee('; found')->assertSee("/plan/prefix/$holder->id");
});

it('zooms around a place by address', function (string $query, string $range): void {
    $w = World::make(false);
    $this->actingAs($w->people['planner'])->get("/plan/prefix/{$w->top->id}?$query")->assertOk()->assertSee("data-ruler=\"$range\"", false);
})->with([
    ['', '192.0.2.0/24'], ['at=0.6&by=2', '192.0.2.128/26'], ['zoom=192.0.2.128/26&at=0.99&by=2', '192.0.2.176/28'],
    ['zoom=192.0.2.128/26&at=0&by=-2', '192.0.2.0/24'], ['zoom=192.0.2.128/26&at=0&by=-99', '192.0.2.0/24'],
    ['at=7&by=1', '192.0.2.128/25'], ['at=x&by=99', '192.0.2.0/32'], ['zoom=10.0.0.0/8', '192.0.2.0/24'],
]);

it('keeps daily samples and says what fills first', function (): void {
    $w = World::make(false);
    $today = Forecasts::today();
    $write = fn (Prefix $p, \Closure $value, int $days = 60) => DB::table('use_samples')->insert(
        array_map(fn (int $d): array => ['prefix_id' => $p->id, 'day' => $today - $d, 'percent' => $value($d)], range(1, $days)),
    );
    $flat = $w->carve('192.0.2.128/27', ['name' => 'Flat']);
    $new = $w->carve('192.0.2.160/27', ['name' => 'New']);
    $write($w->subnet, fn (int $d): float => 70 - 0.5 * $d);
    $write($flat, fn (int $d): float => 40 + $d % 3);
    $write($new, fn (int $d): float => 10.0, 5);
    expect(Forecasts::fit())->toBeGreaterThan(2);
    $first = Forecasts::first($w->top, Reach::of($w->people['planner']));
    expect(array_map(fn (array $f): string => $f['prefix']->name, $first))->toBe(['Ticketing'])
        ->and($first[0]['trend']->kind)->toBe('rising')->and(Forecasts::of($flat)?->kind)->toBe('none')
        ->and(Forecasts::of($new)?->kind)->toBe('few');
    expect(DB::table('forecasts')->where('prefix_id', $w->subnet->id)->value('full_day'))->toBe($today + 60);
    $this->actingAs($w->people['planner'])->get("/plan/prefix/{$w->top->id}")->assertSee('Fills first')->assertSee('80 % in');
    $this->get("/plan/prefix/{$w->subnet->id}")->assertReads('60 samples')->assertSee('80 % in');
    // Sampling the same day again overwrites, and counts what was placed.
    $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id]));
    App\Domain\Plan\Counter::fold();
    Forecasts::sample();
    Forecasts::sample();
    expect(round((float) DB::table('use_samples')->where('prefix_id', $w->subnet->id)->where('day', $today)->value('percent'), 3))
        ->toBe(round(200 / 126, 3))
        ->and((float) DB::table('use_samples')->where('prefix_id', $w->top->id)->where('day', $today)->value('percent'))
        ->toBe(75.0);
});

it('says forecasts as people do', function (): void {
    $today = intdiv(strtotime('2026-11-23 UTC'), 86400);
    $at = fn (float $slope, float $low, float $high, float $now = 60, string $kind = 'rising'): Trend => Trend::kept(
        $kind,
        $slope,
        $low,
        $high,
        $today,
        $now,
        60,
    );
    expect(ForecastWords::level($at(0.2, 0.15, 0.3), 60, 80, $today))->toBe('80 % in March (Jan to Apr)')
        ->and(ForecastWords::level($at(0.2, 0.199, 0.201), 60, 80, $today))->toBe('80 % in March')
        ->and(ForecastWords::level($at(0.2, 0.0, 0.3), 60, 80, $today))->toBe('80 % in March (Jan to open)')
        ->and(ForecastWords::level($at(0.01, 0.009, 0.011), 60, 100, $today))->toBe('100 % not within ten years')
        ->and(ForecastWords::level($at(0, 0, 0, kind: 'none'), 60, 80, $today))->toBe('no trend')
        ->and(ForecastWords::level($at(-1, -1, -1, kind: 'falling'), 60, 80, $today))->toBe('falling')
        ->and(ForecastWords::level(null, 60, 80, $today))->toBe('too few samples')
        ->and(ForecastWords::level($at(1, 1, 1), 85, 80, $today))->toBe('80 % reached')
        ->and(ForecastWords::next($at(0.2, 0.15, 0.3, 85), 85, $today))->toStartWith('90 % in December')
        ->and(ForecastWords::next(null, 100, $today))->toBe('full')
        ->and(ForecastWords::level($at(0.05, 0.04, 0.06), 60, 80, $today))->toBe('80 % in December 2027 (Oct 2027 to Apr 2028)');
});
