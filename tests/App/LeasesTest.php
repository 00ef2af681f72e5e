<?php

declare(strict_types=1);

use App\Acts\Lease\KeepLeases;
use App\Acts\Lease\ReserveLeases;
use App\Acts\Lease\SetShares;
use App\Models\Lease;
use App\Models\Reservation;
use App\Models\Scope;
use App\Models\ScopeServer;
use App\Queries\Coverage;
use App\Queries\LeaseList;
use App\Queries\LeasePage;
use App\Queries\Reach;
use Illuminate\Support\Facades\DB;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    $this->lease = fn (string $last, array $more = []): array => $more + [
        'address' => "192.0.2.$last", 'mac' => '00:00:5e:00:53:'.sprintf('%02x', (int) $last), 'name' => "client-$last",
        'state' => 'active',
        'starts' => time() - 600, 'ends' => time() + 3000, 'scope' => $this->w->scope->id,
    ];
    $this->keep = function (array $leases, string $server = 'dh1'): array {
        return (array) $this->w->did(new KeepLeases($this->w->servers[$server], $leases))->made('leases');
    };
    $this->found = fn (string $filter, string $sort = 'address'): string => (new LeaseList(Reach::whole(), $filter, $this->w->scope->id))
        ->page($sort, 1)->rows->map(fn (Lease $l): string => explode('.', (string) $l->address)[3])->implode(' ');
});

it('finds leases by words', function (string $filter, string $found): void {
    ($this->keep)([
        ($this->lease)('60'), ($this->lease)('61', ['name' => 'till-1', 'ends' => time() + 60]),
        ($this->lease)('62', ['state' => 'released']),
        ($this->lease)('63', ['ends' => time() - 60]), ($this->lease)('64', ['state' => 'declined', 'mac' => '']),
        ($this->lease)('65', ['state' => 'expired', 'ends' => time() - 90]),
    ]);
    ($this->keep)([($this->lease)('100')], 'dh2');
    Lease::query()->where('server_id', $this->w->servers['dh2'])->toBase()->update(['gone_at' => now()]);
    $filter = str_replace(
        ['DH1', 'SCOPE'],
        [DB::table('servers')->where('id', $this->w->servers['dh1'])->value('name'), 'Ticketing'],
        $filter,
    );
    expect(($this->found)($filter))->toBe($found);
})->with([
    'those that run' => ['', '60 61'], 'all' => ['state:any', '60 61 62 63 64 65 100'], 'ran out' => ['state:expired', '63 65'],
    'given back' => ['state:released', '62'], 'declined' => ['state:declined', '64'], 'gone' => ['state:gone', '100'],
    'two states' => ['state:released state:gone', '62 100'], 'an address' => ['192.0.2.61', '61'], 'a prefix' => ['192.0.2.60/31', '60 61'],
    'a range' => ['192.0.2.61-192.0.2.70', '61'], 'a MAC' => ['00:00:5e:00:53:3c', '60'], 'the start of one' => ['00:00:5e', '60 61'],
    'the start of a name' => ['till', '61'], 'a name that is none' => ['gull', ''], 'ends soon' => ['ends:5m', '61'],
    'a server' => ['server:DH1', '60 61'], 'a scope' => ['scope:SCOPE', '60 61'], 'two words' => ['client 00:00:5e', '60'],
    'a wildcard is a letter' => ['%', ''],
]);

it('says what it did not understand, and finds nothing by it', function (string $filter): void {
    ($this->keep)([($this->lease)('60')]);
    $list = new LeaseList(Reach::whole(), $filter);
    expect($list->page('address', 1)->rows)->toHaveCount(0)->and($list->misread)->toHaveCount(1)
        ->and($list->misread[0])->toContain('is not understood');
})->with(['state:odd', 'ends:soon', 'server:gull', 'scope:gull', 'colour:red']);

it('sorts by every head, both ways, and pages', function (): void {
    ($this->keep)(array_map(fn (int $i): array => ($this->lease)((string) $i, [
        'name' => 'c'.(100 - $i), 'ends' => time() + 3000 - $i, 'starts' => time() - 1000 + $i,
    ]), range(60, 70)));
    foreach (array_keys(LeaseList::SORTS) as $sort) {
        $up = ($this->found)('', $sort);
        expect(strrev(($this->found)('', "-$sort")))->toBe(strrev(implode(' ', array_reverse(explode(' ', $up)))));
    }
    expect(($this->found)('', 'ends'))->toStartWith('70 69')->and(($this->found)('', 'nothing'))->toStartWith('60 61');
    $page = (new LeaseList(Reach::whole(), '', $this->w->scope->id))->page('address', 99);
    expect([$page->page, $page->pages, $page->total, $page->from(), $page->to()])->toBe([1, 1, 11, 1, 11]);
});

it('keeps who had an address before, and counts no renewal as another', function (): void {
    ($this->keep)([($this->lease)('60')]);
    ($this->keep)([($this->lease)('60', ['ends' => time() + 9000])]);
    expect(DB::table('lease_bindings')->count())->toBe(0);
    ($this->keep)([($this->lease)('60', ['mac' => '00:00:5e:00:53:aa', 'name' => 'other'])]);
    ($this->keep)([($this->lease)('60', ['mac' => '00:00:5e:00:53:aa', 'name' => 'other', 'state' => 'released'])]);
    ($this->keep)([($this->lease)('60', ['mac' => '00:00:5e:00:53:bb', 'name' => 'third'])]);
    $page = LeasePage::of(Reach::whole(), Lease::query()->where('scope_id', $this->w->scope->id)->with('server')->sole());
    expect(array_column($page->before, 'name'))->toBe(['other', 'client-60'])
        ->and($page->before[1]['client'])->toBe('00:00:5e:00:53:3c');
});

it('tells T1 and T2 from the last renewal, not from the first binding', function (): void {
    // Bound ten days ago, renewed ten minutes ago for eight hours.
    ($this->keep)([($this->lease)('60', ['starts' => time() - 864000, 'ends' => time() + 28800 - 600])]);
    $page = LeasePage::of(Reach::whole(), Lease::query()->where('scope_id', $this->w->scope->id)->with('server')->sole());
    expect($page->t1()->getTimestamp() - time())->toEqualWithDelta(14400 - 600, 3)
        ->and($page->t2()->getTimestamp() - time())->toEqualWithDelta(25200 - 600, 3)
        ->and($page->share(Carbon\CarbonImmutable::now()))->toEqualWithDelta(600 / 28800, 0.001);
});

it('reserves what is leased, for one and for many', function (): void {
    ($this->keep)([($this->lease)('60'), ($this->lease)('61'), ($this->lease)('62', ['ends' => time() - 5]), ($this->lease)('63')]);
    $ids = Lease::query()->orderBy('address')->pluck('id')->map(strval(...))->all();
    $this->w->did(new ReserveLeases([$ids[0]]));
    $outcome = $this->w->did(new ReserveLeases($ids));
    expect(array_column($outcome->notes(), 'code'))->toContain('lease-ended')->toContain('lease-same');
    $reserved = Reservation::query()->where('scope_id', $this->w->scope->id)->orderBy('address')->get();
    expect($reserved->map(fn (Reservation $r): string => $r->line())->all())->toBe([
        '192.0.2.60 for 00:00:5e:00:53:3c', '192.0.2.61 for 00:00:5e:00:53:3d', '192.0.2.63 for 00:00:5e:00:53:3f',
    ])->and($reserved[0]->name)->toBe('client-60');
    expect($this->w->refusal(ReserveLeases::class, ['leases' => ['999999']]))->toBe('nothing-picked');
});

it('lets a bound person see and reserve only leases of their own', function (): void {
    $bound = $this->w->bound();
    ($this->keep)([($this->lease)('60')]);
    $id = (string) Lease::query()->where('scope_id', $this->w->scope->id)->value('id');
    expect($this->w->refusal(ReserveLeases::class, ['leases' => [$id]], $bound))->toBe('nothing-picked');
    $this->actingAs($bound);
    $this->get('/lease/leases?filter=state:any')->assertOk()->assertDontSee('192.0.2.60');
    $this->get("/lease/leases/$id")->assertNotFound();
    $this->get("/lease/leases?scope={$this->w->scope->id}")->assertNotFound();
    $this->post('/lease/leases/end', ['leases' => [$id], 'sure' => '1'])->assertForbidden();
});

it('shows a lease, its time and what else is known', function (): void {
    ($this->keep)([($this->lease)('60')]);
    $id = Lease::query()->where('scope_id', $this->w->scope->id)->value('id');
    $this->actingAs($this->w->people['operator']);
    $this->get("/lease/leases/$id")->assertOk()->assertReads('not planned')->assertReads('for nobody')->assertSee('T1');
    $this->get('/lease/leases?sort=-ends')->assertOk()->assertReads('1 to 1 of 1 lease')->assertSee('aria-sort="descending"', false);
    $this->get('/lease/leases/999999999')->assertNotFound();
});

it('asks before it ends leases, and says what a server did not end', function (): void {
    ($this->keep)([($this->lease)('60')]);
    $id = Lease::query()->where('scope_id', $this->w->scope->id)->value('id');
    $this->actingAs($this->w->people['operator']);
    $this->from('/lease/leases')->post('/lease/leases/end', ['leases' => [$id]])->assertSessionHas('bad');
    config(['harbor.patience' => 0.1]);
    $this->from('/lease/leases')->post('/lease/leases/end', ['leases' => [$id], 'sure' => '1'])->assertSessionHas('bad');
    expect(session('bad'))->toContain('whether it ended any is not known')
        ->and(Lease::query()->find($id)?->state)->toBe('active');
});

it('moves the seam of one scope or of many, and proves the parts whole', function (): void {
    $first = $this->w->servers['dh2'];
    $this->w->did(new SetShares([$this->w->scope->id], 30, $first, 250));
    $ranges = $this->w->scope->ranges()->orderBy('first')->get();
    expect($ranges->map(fn ($r): string => (string) $r->range())->all())->toBe(['192.0.2.60-192.0.2.71', '192.0.2.72-192.0.2.100'])
        ->and($ranges[0]->server_id)->toBe($first)
        ->and(ScopeServer::query()->where('scope_id', $this->w->scope->id)->where('server_id', $first)->value('delay_ms'))->toBe(0)
        ->and(ScopeServer::query()->where('scope_id', $this->w->scope->id)->where('server_id', $this->w->servers['dh1'])->value('delay_ms'))
        ->toBe(250);
    // As it is now when none is named.
    $this->w->did(new SetShares([$this->w->scope->id], 50));
    expect($this->w->scope->ranges()->orderBy('first')->first()->server_id)->toBe($first);
    ($this->keep)([($this->lease)('75')], 'dh2');
    $outcome = $this->w->acts()->rehearse(null, [new SetShares([$this->w->scope->id], 10)]);
    expect(array_column($outcome->notes(), 'code'))->toContain('leases-cut-off');
});

it('refuses to divide what is not there to divide', function (): void {
    $w = $this->w;
    expect($w->refusal(SetShares::class, ['scopes' => [$w->scope->id, $w->subnet->id], 'percent' => '50']))->toBe('not-available')
        ->and($w->refusal(SetShares::class, ['scopes' => [$w->scope->id], 'percent' => '50', 'first' => $w->servers['ns1']]))
        ->toBe('not-its-server')
        ->and($w->refusal(SetShares::class, ['scopes' => [$w->scope->id], 'percent' => '100']))->not->toBeNull();
    ScopeServer::query()->where('scope_id', $w->scope->id)->where('server_id', $w->servers['dh2'])->toBase()->delete();
    expect($w->refusal(SetShares::class, ['scopes' => [$w->scope->id], 'percent' => '50']))->toBe('one-server');
});

it('tells what is left when a server is lost', function (): void {
    ($this->keep)(array_map(fn (int $i): array => ($this->lease)((string) $i, ['ends' => time() + 5400]), range(60, 75)));
    $scope = Scope::query()->with(['ranges', 'exclusions', 'placements.server', 'prefix'])->findOrFail($this->w->scope->id);
    $found = Coverage::of([$scope])[$scope->id];
    // 41 addresses, 32 of dh1 and 9 of dh2; 16 leases of dh1 end within the second hour, and 16 clients came in three days.
    expect($found['how'])->toBe('shares')->and($found['size'])->toBe(41)
        ->and($found['lost'][0])->toMatchArray(['left' => 9, 'free' => 9])
        ->and($found['lost'][1])->toMatchArray(['left' => 32, 'free' => 16]);
    expect($found['lost'][0]['hours'])->toEqualWithDelta(1 + (9 - 16 / 72) / (16 + 16 / 72), 1e-6)
        ->and($found['lost'][1]['hours'])->toEqualWithDelta(72.0, 1e-6);
    $this->actingAs($this->w->people['reader']);
    $this->get('/lease/coverage')->assertOk()->assertReads('in shares')->assertSee($scope->name);
    $this->get('/lease/coverage?filter=is:alone')->assertOk()->assertDontSee("/lease/scope/$scope->id");
    $this->get('/lease/coverage?filter=is:fine')->assertOk()->assertReads('is not understood');
});

it('tells scopes, clients and leases on the console', function (): void {
    ($this->keep)([($this->lease)('60'), ($this->lease)('61', ['state' => 'released'])]);
    $call = function (string $command, array $input): array {
        $status = Illuminate\Support\Facades\Artisan::call($command, $input + ['--json' => true]);

        return [$status, Illuminate\Support\Facades\Artisan::output()];
    };
    [$status, $text] = $call('scope:show', ['scope' => $this->w->scope->name]);
    $told = json_decode($text, true);
    expect($status)->toBe(0)->and($told['subnet'])->toBe('192.0.2.0/25')->and($told['leases'])->toBe(1)
        ->and(array_column($told['options'], 'layer', 'code')[3])->toBe('scope')->and($told['coverage']['how'])->toBe('shares');
    expect($call('scope:show', ['scope' => '192.0.2.0/25'])[0])->toBe(0)->and($call('scope:show', ['scope' => 'nowhere'])[0])->toBe(1);
    [$status, $text] = $call('exchange:try', ['scope' => '192.0.2.0/25', '--mac' => '02:00:5e:00:00:01', '--asked' => '3,6']);
    expect($status)->toBe(1)->and(json_decode($text, true)['servers'][0]['why'])->toContain('ship it');
    DB::table('scope_servers')->update(['shipped_at' => now()]);
    [$status, $text] = $call('exchange:try', ['scope' => '192.0.2.0/25', '--mac' => '02:00:5e:00:00:01']);
    expect($status)->toBe(0)->and(json_decode($text, true)['servers'][0]['address'])->toBe('192.0.2.61')
        ->and($call('exchange:try', ['scope' => '192.0.2.0/25', '--mac' => 'x'])[0])->toBe(2)
        ->and($call('exchange:try', ['scope' => '192.0.2.0/25', '--send' => 'nobody'])[0])->toBe(2);
    [$status, $text] = $call('lease:query', ['filter' => ['192.0.2.0/24', 'state:any']]);
    expect($status)->toBe(0)->and(array_filter(explode("\n", $text)))->toHaveCount(2)
        ->and($call('lease:query', ['filter' => ['nobody']])[0])->toBe(1)->and($call('lease:query', ['filter' => ['state:odd']])[0])
        ->toBe(2);
});
