<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeServer;
use App\Acts\Directory\MakeDomain;
use App\Acts\Directory\MakeSite;
use App\Acts\Directory\MakeVlan;
use App\Acts\Lease\ChangeScope;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\MarkFavourite;
use App\Acts\Plan\PlaceHost;
use App\Acts\Plan\TakeLeases;
use App\Acts\Scan\KeepSwitchVlans;
use App\Models\Host;
use App\Models\Import;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Reservation;
use App\Queries\ServedBy;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Tests\World;

/** The top 192.0.2.0/24 holds the subnet 192.0.2.0/25 with a host, a full subnet in a supernet of its size, and open space. */
function checked(): World
{
    $w = World::make(false);
    $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => '192.0.2.9']));
    $w->carve('192.0.2.128/26', ['kind' => 'supernet', 'name' => 'Holder']);
    $w->carve('192.0.2.128/26', ['name' => 'Fills it']);

    return $w;
}

dataset('what cannot stand in the tree', [
    'host bits set' => ['192.0.2.201/28', 'subnet', 'not-a-prefix', 'write 192.0.2.192/28'],
    'a malformed mask' => ['192.0.2.192 255.255.250', 'subnet', 'not-a-prefix', 'four octets'],
    'a duplicate' => ['192.0.2.0/25', 'subnet', 'duplicate', 'same'],
    'inside a subnet that has hosts' => ['192.0.2.64/26', 'subnet', 'inside-link', 'holds no prefixes'],
    'a second child as large as its parent' => ['192.0.2.128/26', 'pool', 'duplicate', 'is a subnet already'],
    'a supernet in a supernet of the same size' => ['192.0.2.128/26', 'supernet', 'duplicate', 'same'],
    'a subnet that would cover prefixes' => ['192.0.2.0/24', 'subnet', 'overlap', 'would cover'],
    'a subnet around everything' => ['192.0.0.0/16', 'subnet', 'overlap', 'would cover'],
]);

it('refuses over HTTP, before anything is saved and when it is', function (string $prefix, string $kind, string $code): void {
    $w = checked();
    $count = Prefix::query()->count();
    $form = ['space' => $w->space->id, 'prefix' => $prefix, 'kind' => $kind];
    $page = $this->actingAs($w->people['planner'])->post('/act/carve-prefix', $form + ['then' => 'preview'])
        ->assertStatus(422)->assertSee('data-verdict="blocked"', false);
    $code === 'not-a-prefix' && str_contains($prefix, '/') && $page->assertSee('Take 192.0.2.192/28');
    $this->post('/act/carve-prefix', $form + ['then' => 'commit'])->assertSessionHas('bad')->assertSessionHasInput('prefix', $prefix);
    expect(Prefix::query()->count())->toBe($count)
        ->and($w->acts()->rehearse(null, [App\Acts\Plan\CarvePrefix::fromInput($form)])->block()?->code)
        ->toBe($code);
})->with('what cannot stand in the tree');

it('refuses in an import, row by row and with the reason', function (string $prefix, string $kind, string $code, string $says): void {
    $w = checked();
    $csv = "prefix,kind,name\n\"$prefix\",$kind,again\n192.0.2.240/29,subnet,fine\n";
    $this->actingAs($w->people['planner'])
        ->post('/import', ['kind' => 'plan', 'target' => $w->space->id, 'file' => UploadedFile::fake()->createWithContent('p.csv', $csv)]);
    $import = Import::query()->orderByDesc('id')->firstOrFail();
    $rows = DB::table('import_rows')->where('import_id', $import->id)->orderBy('line')->get(['verdict', 'reason']);
    // What is there already and is not otherwise described is the same, not an error.
    expect($rows[1]->verdict)->toBe('add')
        ->and(
            $says === 'same' ? in_array($rows[0]->verdict, ['same', 'change'], true) : $rows[0]->verdict === 'refused'
                && str_contains($rows[0]->reason, $says),
        )
        ->toBeTrue($rows[0]->verdict.' '.$rows[0]->reason);
})->with('what cannot stand in the tree');

it('lets one subnet fill a supernet exactly, by screen and by import', function (): void {
    $w = checked();
    $this->actingAs($w->people['planner'])
        ->post(
            '/import',
            [
                'kind' => 'plan',
                'target' => $w->space->id,
                'file' => UploadedFile::fake()->createWithContent('p.csv', "prefix,kind\n192.0.2.192/27,supernet\n192.0.2.192/27,subnet\n"),
            ],
        );
    $import = Import::query()->orderByDesc('id')->firstOrFail();
    expect($import->counts['add'])->toBe(2);
    $this->post("/import/$import->id/take-over");
    expect(
        Prefix::query()->where('space_id', $w->space->id)->where('first', Address::parse('192.0.2.192')->bytes)
            ->orderBy('kind')->pluck('kind')->all(),
    )->toBe([PrefixKind::Subnet, PrefixKind::Supernet]);
});

it('refuses VLANs that cannot be, by screen and by import', function (): void {
    $w = checked();
    $site = MakeSite::fromInput(['name' => 'Mole '.bin2hex(random_bytes(3))]);
    $far = MakeSite::fromInput(['name' => 'Far '.bin2hex(random_bytes(3))]);
    $domain = MakeDomain::fromInput(['name' => $site->name, 'site' => $site->id]);
    $vlan = MakeVlan::fromInput(['domain' => $domain->id, 'number' => '110', 'name' => 'TICKETS']);
    $w->did($site);
    $w->did($far);
    $w->did($domain);
    $w->did($vlan);
    $this->actingAs($w->people['planner']);
    foreach (
        [
            ['number' => '110', 'name' => 'AGAIN', 'is already in'], ['number' => '0', 'name' => 'X', '1 to 4094'],
            ['number' => '4095', 'name' => 'X', '1 to 4094'], ['number' => '12x', 'name' => 'X', 'is no whole number'],
        ] as $row
    ) {
        $this->post('/act/make-vlan', ['domain' => $domain->id, 'then' => 'preview', 'number' => $row['number'], 'name' => $row['name']])
            ->assertStatus(422)->assertSee($row[0]);
    }
    $this->post('/act/change-prefix', ['prefixes' => [$w->subnet->id], 'site' => $far->id, 'vlan' => $vlan->id, 'then' => 'preview'])
        ->assertOk()->assertSee('belongs to '.$site->name);
    $this->post(
        '/import',
        [
            'kind' => 'plan',
            'target' => $w->space->id,
            'file' => UploadedFile::fake()->createWithContent(
                'p.csv',
                "prefix,site,vlan\n192.0.2.240/29,$far->name,110\n192.0.2.232/29,$site->name,110\n192.0.2.224/29,$site->name,5000\n",
            ),
        ],
    );
    $import = Import::query()->orderByDesc('id')->firstOrFail();
    expect(DB::table('import_rows')->where('import_id', $import->id)->orderBy('line')->pluck('verdict')->all())->toBe([
        'refused',
        'add',
        'refused',
    ]);
});

it('keeps the gateway out of dynamic ranges, and one for a subnet', function (): void {
    $w = World::make();
    $code = fn ($act): ?string => $w->acts()->rehearse(null, [$act])->block()?->code;
    expect($code(new ChangePrefix([$w->subnet->id], gateway: '192.0.2.70')))->toBe('gateway-in-range')
        ->and($code(new ChangePrefix([$w->subnet->id], gateway: '192.0.2.200')))->toBe('gateway-outside');
    expect(
        array_column(
            $w->acts()
                ->rehearse(null, [PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => '192.0.2.5', 'role' => 'gateway'])])
                ->notes(),
            'code',
        ),
    )->toContain('second-gateway');
    $this->w = $w;
    $w->did(new ChangeServer($w->servers['ns1'], '127.0.0.1:9'));
    expect(
        array_column(
            $w->acts()
                ->rehearse(
                    null,
                    [
                        ChangeScope::fromInput([
                            'scope' => $w->scope->id, 'lists' => '1', 'ranges' => ['192.0.2.50-192.0.2.100'],
                            'servers' => [$w->servers['dh1']],
                        ]),
                    ],
                )
                ->notes(),
            'code',
        ),
    )->toContain('server-in-range');
});

it('says who serves a subnet, and the gaps', function (): void {
    $w = World::make();
    $of = fn (): array => ServedBy::of($w->subnet->refresh()->load('vlan'), $w->scope->load('placements.server'));
    expect($of()['names'])->toHaveCount(2)->and($of()['leases'])->toHaveCount(2)->and($of()['gaps'])->toBe([]);
    $other = $w->carve('198.51.100.0/24', ['kind' => 'subnet', 'name' => 'Bare']);
    expect(array_column(ServedBy::of($other, null)['gaps'], 'words'))->toBe(['no reverse zone for 100.51.198.in-addr.arpa']);
    $domain = MakeDomain::fromInput(['name' => 'Dock '.bin2hex(random_bytes(3))]);
    $vlan = MakeVlan::fromInput(['domain' => $domain->id, 'number' => '7', 'name' => 'SEVEN']);
    $w->did($domain);
    $w->did($vlan);
    $w->did(new ChangePrefix([$w->subnet->id], vlan: $vlan->id));
    $w->did(
        new KeepSwitchVlans([['domain' => $domain->name, 'number' => 7, 'name' => 'SEVEN', 'gateway' => '', 'relays' => ['203.0.113.9']]]),
    );
    expect(array_column($of()['gaps'], 'words')[0])->toContain('203.0.113.9, which is no server we know');
    $this->actingAs($w->people['reader'])->get("/plan/prefix/{$w->subnet->id}")->assertSee('Served by')->assertSee('203.0.113.9');
});

it('takes leases into the plan: new, changed, same, ended', function (): void {
    $w = World::make();
    $lease = fn (string $address, string $mac, string $name, int $ends) => DB::table('leases')->insert([
        'server_id' => $w->servers['dh1'], 'scope_id' => $w->scope->id, 'address' => Address::parse($address)->bytes,
        'mac' => MacAddress::parse($mac)->bytes, 'host_name' => $name, 'state' => $ends > 0 ? 'active' : 'expired',
        'starts_at' => now()->subHour(), 'ends_at' => now()->addHours($ends),
    ]);
    $lease('192.0.2.60', '00:00:5e:00:53:60', 'Tablet', 3);
    $lease('192.0.2.61', '00:00:5e:00:53:61', 'same', 3);
    $lease('192.0.2.62', '00:00:5e:00:53:62', 'moved', 3);
    $lease('192.0.2.63', '00:00:5e:00:53:63', 'gone', -3);
    $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => '192.0.2.61', 'name' => 'same', 'mac' => '00:00:5e:00:53:61']));
    $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'address' => '192.0.2.62', 'name' => 'moved', 'mac' => '00:00:5e:00:53:99']));
    $all = ['192.0.2.60', '192.0.2.61', '192.0.2.62', '192.0.2.63', '192.0.2.64'];
    $outcome = $w->acts()->rehearse(null, [new TakeLeases($w->subnet->id, $all)]);
    expect(
        array_values(array_filter(array_column($outcome->notes(), 'code'), fn (string $c): bool => str_starts_with($c, 'lease-'))),
    )->toEqualCanonicalizing(['lease-same', 'lease-ended', 'lease-kept', 'lease-none']);
    $w->did(new TakeLeases($w->subnet->id, $all, macs: true, reserve: true));
    expect(
        Host::query()->where('prefix_id', $w->subnet->id)->orderBy('address')->get()
            ->map(fn (Host $h): string => "$h->address $h->name $h->mac")->all(),
    )->toBe(['192.0.2.60 tablet 00:00:5e:00:53:60', '192.0.2.61 same 00:00:5e:00:53:61', '192.0.2.62 moved 00:00:5e:00:53:62'])
        ->and(Reservation::query()->where('scope_id', $w->scope->id)->pluck('name')->all())->toBe(['tablet']);
    $this->actingAs($w->people['operator'])->get("/plan/prefix/{$w->subnet->id}?show=evidence")->assertSee('Take leases into the plan');
});

it('keeps favourites for each person', function (): void {
    $w = World::make(false);
    $w->acts()->commit($w->people['planner'], [new MarkFavourite($w->subnet->id)]);
    $this->actingAs($w->people['planner'])->get("/plan/prefix/{$w->top->id}")->assertSee('At hand');
    $this->actingAs($w->people['reader'])->get("/plan/prefix/{$w->top->id}")->assertDontSee('At hand');
    $w->acts()->commit($w->people['planner'], [new MarkFavourite($w->subnet->id, false)]);
    $this->actingAs($w->people['planner'])->get("/plan/prefix/{$w->top->id}")->assertDontSee('At hand');
});

it('takes and releases addresses for scripts', function (): void {
    $w = World::make(false);
    $run = function (string $command, array $arguments): array {
        $status = Artisan::call($command, $arguments + ['--json' => true]);

        return [$status, json_decode(Artisan::output(), true)];
    };
    $prefix = ['prefix' => '192.0.2.0/25', '--space' => $w->space->name];
    expect($run('addresses:take', $prefix + ['--count' => '3', '--row' => true]))->toBe([
        0,
        ['prefix' => '192.0.2.0/25', 'addresses' => ['192.0.2.2', '192.0.2.3', '192.0.2.4']],
    ])
        ->and(
            $run(
                'addresses:take',
                ['prefix' => 'Ticketing', '--name' => 'n-{n}', '--count' => '1', '--space' => $w->space->name],
            )[1]['addresses'],
        )->toBe(['192.0.2.5'])
        ->and($run('addresses:take', ['prefix' => 'Nowhere'])[0])->toBe(1)
        ->and($run('addresses:take', $prefix + ['--count' => 'x'])[0])->toBe(2)
        ->and($run('addresses:take', $prefix + ['--count' => '126'])[0])->toBe(1);
    expect($run('addresses:release', ['address' => ['192.0.2.2', '192.0.2.3'], '--space' => $w->space->name]))
        ->toBe([0, ['released' => 2]])
        ->and($run('addresses:release', ['address' => ['192.0.2.2'], '--space' => $w->space->name])[0])->toBe(1)
        ->and($run('addresses:release', ['address' => ['x']])[0])->toBe(2);
    expect(Host::query()->where('space_id', $w->space->id)->count())->toBe(2);
});

it('gives a carved subnet the gateway that its place hands down, when that is asked for', function (): void {
    $w = World::make(false);
    $carve = function (array $input) use ($w): ?string {
        $act = App\Acts\Plan\CarvePrefix::fromInput(
            $input + ['space' => $w->space->id, 'in' => $w->top->id, 'length' => '28', 'name' => 'x'],
        );
        $w->did($act);

        return App\Models\Prefix::query()->findOrFail($act->id)->gateway?->__toString();
    };
    expect($carve(['gateway' => 'habit', 'prefix' => '192.0.2.128/28']))->toBe('192.0.2.129')
        ->and($carve(['gateway' => 'last', 'prefix' => '192.0.2.144/28']))->toBe('192.0.2.158')
        ->and($carve(['gateway' => '', 'prefix' => '192.0.2.160/28']))->toBeNull()
        ->and($carve(['gateway' => 'habit', 'prefix' => '192.0.2.176/31']))->toBeNull()
        ->and($carve(['gateway' => 'habit', 'prefix' => '192.0.2.192/28', 'kind' => 'pool']))->toBeNull();
    $w->did(
        App\Acts\Directory\SetSetting::fromInput(['layer' => 'prefix', 'object' => $w->top->id, 'key' => 'gateway', 'value' => 'last']),
    );
    expect($carve(['gateway' => 'Habit', 'prefix' => '192.0.2.208/28']))->toBe('192.0.2.222');
    $this->actingAs($w->people['planner'])->get("/plan/prefix/{$w->top->id}")->assertSee('value="habit"', false);
});
