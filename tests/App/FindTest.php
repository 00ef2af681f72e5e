<?php

declare(strict_types=1);

use App\Acts\Directory\MakeDevice;
use App\Acts\Directory\MakeDomain;
use App\Acts\Directory\MakeVlan;
use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Acts\Name\AddRecord;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\PlaceHost;
use App\Models\Host;
use App\Models\Person;
use App\Models\Reservation;
use App\Queries\Find;
use App\Queries\Reach;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Tests\World;

/** Makes a reservation and gives it another name at once. */
final readonly class MakesAndRenames extends Act
{
    public function __construct(public string $scope, public string $first, public string $then)
    {
    }

    public function title(): string
    {
        return 'make and rename';
    }

    public static function may(Person $person): bool
    {
        return true;
    }

    public function apply(Ledger $ledger): void
    {
        $row = new Reservation([
            'scope_id' => $this->scope, 'address' => Address::parse('192.0.2.99'), 'mac' => MacAddress::parse('02:00:00:00:00:99'),
            'name' => $this->first,
        ]);
        $row->save();
        $row->name = $this->then;
        $row->save();
    }
}

/** Makes so many hosts that they are not listed one by one. */
final readonly class MakesMany extends Act
{
    public function __construct(public string $prefix, public string $space, public string $word)
    {
    }

    public function title(): string
    {
        return 'make many';
    }

    public static function may(Person $person): bool
    {
        return true;
    }

    public function apply(Ledger $ledger): void
    {
        $ledger->bulk(Host::class, array_map(fn (int $n): array => [
            'id' => (string) Str::ulid(), 'version' => 1, 'space_id' => $this->space, 'family' => 4,
            'address' => pack('N', 0xC6336400 + $n), 'prefix_id' => $this->prefix, 'name' => "lamp-$this->word-$n",
        ], range(1, 600)));
    }
}

beforeEach(function (): void {
    $this->w = World::make();
    $device = MakeDevice::fromInput(['name' => 'scales-'.bin2hex(random_bytes(3)), 'kind' => 'scales']);
    $this->w->did($device);
    $this->w->did(PlaceHost::fromInput([
        'prefix' => $this->w->subnet->id,
        'name' => 'till-7',
        'zone' => $this->w->zone->id,
        'address' => '192.0.2.7',
        'mac' => '00:00:5e:00:53:07',
        'device' => $device->id,
        'ptr' => '1',
        'reserve' => '1',
    ]));
    $this->find = fn (string $text): Find => Find::text($text, Reach::of($this->w->people['reader']));
    // Other tests may have left nothing, but spaces of one run can hold the same prefix: only ours counts.
    $this->mine = fn (Find $find, string $kind): Collection => ($find->found[$kind] ?? collect())->filter(
        fn ($row): bool => ! isset($row->space_id) || $row->space_id === $this->w->space->id,
    )->values();
});

it('follows the chain from an address to everything known of it', function (): void {
    $find = ($this->find)('192.0.2.7');
    expect($find->understood)->toBe(['address 192.0.2.7'])
        ->and(($this->mine)($find, 'Prefixes')->pluck('name')->all())->toBe(['Quay', 'Ticketing'])
        ->and(($this->mine)($find, 'Addresses')->sole()->name)->toBe('till-7.'.$this->w->zone->title())
        ->and($find->found['Names']->map(fn ($r): string => $r->typeName())->sort()->values()->all())->toBe(['A', 'PTR'])
        ->and((string) $find->found['Reservations']->sole()->mac)->toBe('00:00:5e:00:53:07')
        ->and($find->found['Devices']->sole()->kind)->toBe('scales');
});

it('says how a prefix was understood, and finds what is inside', function (): void {
    $find = ($this->find)('192.0.2.77 255.255.255.0');
    expect($find->understood[0])->toBe('prefix 192.0.2.0/24, the network of 192.0.2.77')
        ->and(($this->mine)($find, 'Prefixes')->pluck('name')->all())->toBe(['Quay', 'Ticketing']);
});

it('says that a range is no prefix and what it takes', function (): void {
    expect(($this->find)('192.0.2.1-192.0.2.6')->understood[0])
        ->toContain('range of 6 addresses, no prefix')
        ->toContain('192.0.2.2/31');
});

it('points at what is wrong in what was typed', function (): void {
    expect(($this->find)('192.0.2.256')->understood[0])->toContain('character 9');
});

it('finds by MAC in any form', function (string $text): void {
    $find = ($this->find)($text);
    expect($find->understood)->toBe(['MAC address 00:00:5e:00:53:07'])
        ->and((string) ($this->mine)($find, 'Addresses')->sole()->address)->toBe('192.0.2.7')
        ->and($find->found['Names'])->toHaveCount(2);
})->with(['00:00:5e:00:53:07', '0000.5E00.5307', '00-00-5e-00-53-07']);

it('finds by the start of a name and never in the middle', function (): void {
    expect(($this->mine)(($this->find)('TILL-7'), 'Addresses'))->toHaveCount(1)
        ->and(($this->mine)(($this->find)('ill-7'), 'Addresses'))->toHaveCount(0);
});

it('takes no wildcard from what was typed', function (): void {
    expect(($this->mine)(($this->find)('%'), 'Addresses'))->toHaveCount(0)
        ->and(($this->mine)(($this->find)('till_7'), 'Addresses'))->toHaveCount(0);
});

it('finds a VLAN by number with its subnets', function (): void {
    $domain = MakeDomain::fromInput(['name' => 'Quay '.bin2hex(random_bytes(3))]);
    $vlan = MakeVlan::fromInput(['domain' => $domain->id, 'number' => '4001', 'name' => 'TILLS']);
    $this->w->did($domain);
    $this->w->did($vlan);
    $this->w->did(new ChangePrefix([$this->w->subnet->id], vlan: $vlan->id));
    $find = ($this->find)('4001');
    expect($find->understood[0])->toBe('VLAN number 4001')
        ->and($find->found['VLANs']->sole()->name)->toBe('TILLS')
        ->and($find->found['Prefixes']->pluck('id')->all())->toContain($this->w->subnet->id);
});

it('says in which zone a name would be', function (): void {
    expect(implode(' ', ($this->find)('nobody.'.$this->w->zone->title())->understood))
        ->toContain('it would be in the zone '.$this->w->zone->title());
});

it('finds nothing for nothing', function (): void {
    expect(($this->find)('  ')->found)->toBe([]);
});

it('finds sites, tenants, servers and VLANs by any part of their names, for those who see the whole', function (): void {
    $mark = bin2hex(random_bytes(3));
    $site = App\Acts\Directory\MakeSite::fromInput(['name' => "Lantern Steps $mark"]);
    $tenant = App\Acts\Directory\MakeTenant::fromInput(['name' => "Lantern Trust $mark"]);
    array_map($this->w->did(...), [$site, $tenant]);
    $domain = MakeDomain::fromInput(['name' => "steps-$mark", 'site' => $site->id]);
    array_map($this->w->did(...), [$domain, MakeVlan::fromInput(['domain' => $domain->id, 'number' => 77, 'name' => "OLD-LANTERN-$mark"])]);
    $find = ($this->find)('antern');
    expect($find->found['Sites']->pluck('name')->all())->toContain("Lantern Steps $mark")
        ->and($find->found['Tenants']->pluck('name')->all())->toContain("Lantern Trust $mark")
        ->and($find->found['VLANs']->pluck('name')->all())->toContain("OLD-LANTERN-$mark")
        ->and(($this->find)('ns1-')->found['Servers'])->not->toBeEmpty();
    $this->actingAs($this->w->people['reader'])->get('/find?q=lantern')->assertOk()->assertSee("/directory/site/$site->id", false);
    $this->actingAs($this->w->bound())->get('/find?q=antern')->assertOk()->assertDontSee("Lantern Trust $mark")
        ->assertDontSee("Lantern Steps $mark");
});

it('finds what is owned by a tenant or stands at a site, by the name of either, for those who see the whole', function (): void {
    $mark = bin2hex(random_bytes(3));
    $site = App\Acts\Directory\MakeSite::fromInput(['name' => "Gannet Stack $mark"]);
    $tenant = App\Acts\Directory\MakeTenant::fromInput(['name' => "Gannet Trust $mark"]);
    array_map($this->w->did(...), [$site, $tenant]);
    $subnet = $this->w->subnet->id;
    expect(($this->find)("annet Trust $mark")->found['Prefixes']->all())->toBe([]);
    DB::table('prefixes')->where('id', $subnet)->update(['tenant_id' => $tenant->id]);
    DB::table('zones')->where('id', $this->w->zone->id)->update(['tenant_id' => $tenant->id]);
    $find = ($this->find)("annet Trust $mark");
    expect($find->found['Prefixes']->pluck('id')->all())->toBe([$subnet])
        ->and($find->found['Zones']->pluck('id')->all())->toBe([$this->w->zone->id])
        ->and(implode('; ', $find->understood))->toContain("owner Gannet Trust $mark, so what says that it is theirs")
        ->and(($this->find)("annet Stack $mark")->found['Prefixes']->all())->toBe([]);
    DB::table('prefixes')->where('id', $subnet)->update(['site_id' => $site->id]);
    expect(($this->find)("annet Stack $mark")->found['Prefixes']->pluck('id')->all())->toBe([$subnet]);
    $this->actingAs($this->w->people['reader'])->get('/find?q='.urlencode("Gannet Trust $mark"))->assertOk()
        ->assertSee("/plan/prefix/$subnet", false);
    $this->actingAs($this->w->bound())->get('/find?q='.urlencode("Gannet Trust $mark"))->assertOk()->assertDontSee('owner Gannet');
    foreach (range(1, 6) as $n) {
        $this->w->did(App\Acts\Directory\MakeTenant::fromInput(['name' => "Gannet Trust $mark $n"]));
    }
    expect(($this->find)("Gannet Trust $mark")->found['Prefixes']->all())->toBe([]);
});

it('answers while one types, with what is just that first, and takes commands in plain words', function (): void {
    $w = $this->w;
    $this->actingAs($w->person('all-'.bin2hex(random_bytes(3)), ['planner', 'operator']));
    $this->get('/find/quick?q=192.0.2.7')->assertOk()->assertSee('data-exact="192.0.2.7"', false)
        ->assertReads("Addresses 192.0.2.7 till-7.{$w->zone->title()}");
    $this->get('/find/quick?q=till-7.'.$w->zone->title())->assertSee("/plan/prefix/{$w->subnet->id}?address=192.0.2.7", false);
    $this->get('/find/quick?q=t')->assertOk()->assertDontSee('data-exact', false)->assertReads('try …');
    $this->get('/find/quick?q='.urlencode('place host in 192.0.2.0/25'))->assertSee("/plan/prefix/{$w->subnet->id}#place", false);
    $this->get('/find/quick?q='.urlencode('Place host in Ticketing'))->assertSee("/plan/prefix/{$w->subnet->id}#place", false);
    $this->get('/find/quick?q='.urlencode('carve in Quay'))->assertSee("/plan/prefix/{$w->top->id}#carve", false);
    $this->get('/find/quick?q='.urlencode('look up www.example'))->assertSee('/name/lookup?server=all&amp;q=www.example', false);
    $this->get('/find/quick?q='.urlencode('ship ns1'))->assertSee("/ship/server/{$w->servers['ns1']}#ship", false);
    $this->get('/find/quick?q='.urlencode('try Ticketing'))->assertSee("/lease/exchange?scope={$w->scope->id}", false);
    $this->get('/find/quick?q=zzzzzz')->assertOk()->assertReads('Nothing begins so yet');
    // Nobody is offered what they may not do, nor shown what they may not see.
    $this->actingAs($w->people['reader'])->get('/find/quick?q='.urlencode('place host in Ticketing'))->assertDontSee('#place', false);
    $this->actingAs($w->bound())->get('/find/quick?q='.urlencode('ship ns1'))->assertDontSee('/ship/server', false);
    $this->get('/find/quick?q='.urlencode('carve in Quay'))->assertDontSee('#carve', false);
    $this->get('/find/quick?q=192.0.2.7')->assertDontSee('till-7');
});

it('leads on by Enter to the one thing that is just what was typed', function (): void {
    $w = $this->w;
    $this->actingAs($w->person('all-'.bin2hex(random_bytes(3)), ['planner', 'operator']));
    $enter = fn (string $text) => $this->get('/find?enter=1&q='.urlencode($text));
    $enter(' 192.0.2.0/25 ')->assertRedirect("/plan/prefix/{$w->subnet->id}");
    // An address that is reserved too is two things: all of them are told.
    $enter('192.0.2.7')->assertOk()->assertReads('till-7');
    $ship = 'ship '.App\Models\Server::query()->findOrFail($w->servers['ns1'])->name;
    $enter($ship)->assertRedirect("/ship/server/{$w->servers['ns1']}#ship");
    // What is asked for by its address stays a page of all that was found; so does what is only like it, and what is not there.
    $this->get('/find?q=192.0.2.7')->assertOk();
    $enter('192.0.2')->assertOk();
    $enter('zzzzzz')->assertOk();
    $enter('')->assertOk();
    $this->actingAs($w->bound());
    $enter('192.0.2.7')->assertOk()->assertDontSee('till-7');
    $enter($ship)->assertOk();
});

it('tells everything of one address, also who had it before', function (): void {
    $w = World::make();
    $lease = fn (string $mac, string $name): App\Acts\Lease\KeepLeases => new App\Acts\Lease\KeepLeases($w->servers['dh1'], [[
        'address' => '192.0.2.60', 'mac' => $mac, 'name' => $name, 'state' => 'active', 'starts' => time() - 60, 'ends' => time() + 3600,
        'scope' => $w->scope->id,
    ]]);
    $w->did($lease('00:00:5e:00:53:01', 'former'));
    $w->did($lease('00:00:5e:00:53:02', 'present'));
    $this->actingAs($w->people['reader']);
    $this->get('/find?q=192.0.2.60')->assertOk()->assertReads('In the dynamic range 192.0.2.60-192.0.2.91 of')->assertSee('present')
        ->assertReads('Earlier leases')->assertSee('former');
    $this->get('/find?q=192.0.2.1')->assertOk()->assertReads('The gateway of 192.0.2.0/25 Ticketing');
    $this->get('/find?q=00:00:5e:00:53:01')->assertOk()->assertReads('Earlier leases')->assertSee('192.0.2.60');
    $this->get('/find/quick?q=192.0.2.60')->assertOk();
    $this->actingAs($w->bound())->get('/find?q=192.0.2.1')->assertOk()->assertDontSee('The gateway of');
    $this->get('/find?q=192.0.2.60')->assertOk()->assertDontSee('former')->assertDontSee('dynamic range');
    $this->get('/find?q=00:00:5e:00:53:01')->assertOk()->assertDontSee('former');
});

it('finds words inside names, descriptions and owners, and keeps them in step', function (): void {
    $w = $this->w;
    $own = 'zq'.bin2hex(random_bytes(3));
    $w->did(new ChangePrefix([$w->subnet->id], name: "Hall of $own, north", description: 'Turnstiles beside the café'));
    $w->did(PlaceHost::fromInput([
        'prefix' => $w->subnet->id, 'name' => "gate-$own-9", 'address' => '192.0.2.9', 'owner' => "Crew $own", 'description' => 'Spare arm',
    ]));
    $at = fn (string $text, string $kind): array => ($this->mine)(($this->find)($text), $kind)->pluck('name')->all();
    expect($at($own, 'Prefixes'))->toBe(["Hall of $own, north"])->and($at("north $own", 'Prefixes'))->toBe(["Hall of $own, north"])
        ->and($at("$own café", 'Prefixes'))->toBe(["Hall of $own, north"])->and($at("$own south", 'Prefixes'))->toBe([])
        ->and($at($own, 'Addresses'))->toBe(["gate-$own-9"])->and($at("spare $own", 'Addresses'))->toBe(["gate-$own-9"])
        ->and($at(substr($own, 0, 6), 'Addresses'))->toBe(["gate-$own-9"])->and($at(substr($own, 1), 'Addresses'))->toBe([])
        ->and(($this->find)($own)->understood)->toContain('words inside names and descriptions')
        ->and(($this->find)('z')->understood)->not->toContain('words inside names and descriptions');
    // The domain is found as a zone, not at each host.
    expect($at('quay', 'Addresses'))->toBe([]);
    // A host is renamed, and released; a prefix is renamed.
    $host = App\Models\Host::query()->where('name', "gate-$own-9")->firstOrFail();
    $w->did(App\Acts\Plan\ChangeHost::fromInput(['host' => $host->id, 'name' => 'lamp-'.$own.'x.']));
    expect($at($own, 'Addresses'))->toBe(["lamp-{$own}x"])->and($at("gate $own", 'Addresses'))->toBe([]);
    $w->did(new App\Acts\Plan\ReleaseHosts([$host->id]));
    expect($at($own, 'Addresses'))->toBe([]);
    $w->did(new ChangePrefix([$w->subnet->id], name: 'Ticketing', description: '-'));
    expect($at($own, 'Prefixes'))->toBe([])->and(DB::table('words')->where('word', 'like', "$own%")->count())->toBe(0);
});

it('finds words in the first labels of records, zones by each label, and no names of reverse zones', function (): void {
    $w = $this->w;
    $own = 'zq'.bin2hex(random_bytes(3));
    $w->did(AddRecord::fromInput(['zone' => $w->zone->id, 'name' => "mail-$own.west", 'type' => 'TXT', 'data' => 'x']));
    $names = fn (string $text): array => ($this->find)($text)->found['Names']->pluck('owner')->all();
    expect($names($own))->toBe(["mail-$own.west.{$w->zone->name}"])->and($names("west $own"))->toBe([]);
    $record = App\Models\Record::query()->where('owner', 'like', "mail-$own%")->firstOrFail();
    $w->did(App\Acts\Name\ChangeRecord::fromInput(['record' => $record->id, 'name' => "post-$own", 'data' => 'x']));
    expect($names("mail $own"))->toBe([])->and($names("post $own"))->toBe(["post-$own.{$w->zone->name}"]);
    $w->did(new App\Acts\Name\RemoveRecords([App\Models\Record::query()->where('owner', 'like', "post-$own%")->firstOrFail()->id]));
    expect($names($own))->toBe([])->and(DB::table('words')->where('word', $own)->count())->toBe(0);
    // Of addresses nothing is kept: they are found as addresses.
    expect(DB::table('words')->whereIn('row_id', App\Models\Record::query()->where('zone_id',
        $w->reverse->id)->select('id'))->count())->toBe(0);
    $child = $w->zone("$own.{$w->zone->title()}");
    expect(($this->find)($w->zone->title())->found['Zones']->pluck('id')->all())->toBe([$w->zone->id, $child->id])
        ->and(($this->find)(explode('.', $w->zone->title())[0])->found['Zones'])->toHaveCount(2)
        ->and(Find::text($own, Reach::of($w->bound()))->found['Zones'])->toHaveCount(0);
    foreach (App\Queries\Invariants::all() as $sentence => $breaks) {
        str_contains((string) $sentence, 'words') ? expect($breaks['some'])->toBe([]) : null;
    }
});

it('takes a line in a word as a letter, and opens a zone that is typed in full', function (): void {
    $own = 'zq'.bin2hex(random_bytes(3));
    $this->w->did(new ChangePrefix([$this->w->subnet->id], description: "{$own}xend"));
    expect(($this->mine)(($this->find)("{$own}_"), 'Prefixes')->all())->toBe([]);
    $this->w->did(new ChangePrefix([$this->w->subnet->id], description: "{$own}_end"));
    expect(($this->mine)(($this->find)("{$own}_"), 'Prefixes'))->toHaveCount(1);
    // Its own NS records stand at the same name: the zone is meant.
    $hits = App\Queries\QuickFind::hits($this->w->zone->title(), Reach::of($this->w->people['reader']));
    $exact = array_filter($hits, fn (array $h): bool => $h['exact']);
    expect(array_map(fn ($h): string => $h['of']::class, array_values($exact)))->toBe([App\Models\Zone::class]);
});

it('keeps words of what is made and changed in one go, and of very many at once', function (): void {
    $own = 'zq'.bin2hex(random_bytes(3));
    $this->w->did(new MakesAndRenames($this->w->scope->id, "$own first", "$own second"));
    expect(DB::table('words')->where('word', 'like', "$own%")->count())->toBe(1)
        ->and(DB::table('words')->whereIn('word', ['second', 'first'])->whereIn('row_id', DB::table('reservations')
            ->where('name', "$own second")->select('id'))->pluck('word')->all())->toBe(['second']);
    $this->w->did(new MakesMany($this->w->subnet->id, $this->w->space->id, $own));
    expect(DB::table('words')->where('word', $own)->count())->toBe(601);
});

it('finds words inside only where somebody may look', function (): void {
    $own = 'zq'.bin2hex(random_bytes(3));
    $quill = $this->w->bound();
    $theirs = $this->w->carve('192.0.2.224/28', ['name' => "Slip of $own", 'stage' => 'live']);
    $this->w->did(new ChangePrefix([$this->w->subnet->id], description: "Slip of $own"));
    $this->w->did(new ChangePrefix([$theirs->id], tenant: $quill->tenant_id));
    expect(Find::text($own, Reach::of($quill))->found['Prefixes']->pluck('id')->all())->toBe([$theirs->id]);
    // However many there are that they do not see.
    $this->w->did(App\Acts\Plan\PlaceSeveral::fromInput(['prefix' => $this->w->subnet->id, 'names' => "a-$own-{n}", 'count' => '55']));
    $this->w->did(PlaceHost::fromInput(['prefix' => $theirs->id, 'name' => "z-$own"]));
    expect(Find::text($own, Reach::of($quill))->found['Addresses']->pluck('name')->all())->toBe(["z-$own"]);
});

it('gives up a search for words that are everywhere, and says so', function (): void {
    $split = App\Database\Words::split(str_repeat('wort ', 40).'Ähre_1 ähre_1 '.str_repeat('x', 60));
    expect($split)->toBe(['wort', 'ähre_1', str_repeat('x', 40)])->and(App\Database\Words::split(' -.%_ '))->toBe(['_'])
        ->and(App\Database\Words::split(''))->toBe([]);
    // A percent sign is a letter that is nowhere, not all words.
    expect(($this->find)('%%')->found['Prefixes']->all())->toBe([]);
    foreach (App\Queries\Invariants::all() as $sentence => $breaks) {
        str_contains((string) $sentence, 'words') ? expect($breaks['some'])->toBe([]) : null;
    }
});

it('does what was typed in plain words, also from the page of all that was found', function (): void {
    $this->actingAs($this->w->people['planner'])->get('/find?q='.urlencode('look up www.example.net'))->assertOk()->assertReads('Do it')
        ->assertSee('/name/lookup?server=all&amp;q=www.example.net', false);
    $this->get('/find/quick?q='.urlencode('Look up www.example.net'))->assertSee('data-exact="Look up www.example.net"', false);
    $this->get('/find/quick?q='.urlencode('ship ns1'))->assertDontSee('data-exact="ship ns1"', false);
    $this->actingAs($this->w->bound())->get('/find?q='.urlencode('look up www.example.net'))->assertOk()->assertDontSee('Do it');
});

it('finds clients by the names they had, and prefixes by who they came from', function (): void {
    $w = $this->w;
    $own = 'zq'.bin2hex(random_bytes(3));
    $w->did(new ChangePrefix([$w->subnet->id], origin: 'A registry', originHandle: "NET-$own-7"));
    expect(($this->mine)(($this->find)($own), 'Prefixes')->pluck('name')->all())->toBe(['Ticketing'])
        ->and(($this->mine)(($this->find)("registry $own"), 'Prefixes')->pluck('name')->all())->toBe(['Ticketing']);
    $row = [
        'server_id' => $w->servers['dh1'], 'address' => App\Models\Host::query()->firstOrFail()->address->bytes,
        'mac' => hex2bin('00005e005344'), 'host_name' => "$own-phone", 'starts_at' => now()->subDays(3), 'state' => 'active',
    ];
    DB::table('lease_bindings')->insert($row + ['until_at' => now()->subDay(), 'ends_at' => now()->subDay()]);
    DB::table('leases')->insert($row + [
        'scope_id' => $w->scope->id, 'ends_at' => now()->addHour(),
    ]);
    $find = ($this->find)("$own-ph");
    expect($find->found['Leases']->pluck('host_name')->all())->toBe(["$own-phone"])
        ->and($find->found['Earlier leases']->pluck('host_name')->all())->toBe(["$own-phone"]);
    // A tenant's admin sees neither.
    $theirs = Find::text("$own-ph", Reach::of($w->bound()));
    expect($theirs->found['Leases']->all())->toBe([])->and($theirs->found['Earlier leases']->all())->toBe([]);
    $this->actingAs($w->people['reader'])->get("/find?q=$own-ph")->assertOk()->assertReads("$own-phone");
});
