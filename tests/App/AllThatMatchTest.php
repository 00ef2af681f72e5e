<?php

declare(strict_types=1);

use App\Acts\Plan\PlaceMany;
use App\Models\Host;
use App\Models\OptionValue;
use App\Models\Prefix;
use App\Models\Scope;
use App\Queries\Matching;
use App\Queries\Reach;
use Tests\World;

/*
 * More rows than a page holds are taken at once: by what the list's filter finds, under the reach of who asks, and as it stands then.
 */

beforeEach(function (): void {
    $this->w = World::make(false);
    $this->subnet = $this->w->carve('198.51.100.0/24', ['name' => 'Long quay']);
    $this->w->did(new PlaceMany(array_map(fn (int $n): array => [
        'prefix' => $this->subnet->id, 'address' => "198.51.100.$n", 'name' => ($n <= 120 ? 'till' : 'lamp')."-$n",
    ], range(2, 160))));
    $this->actingAs($this->w->people['planner']);
    $this->all = fn (string $filter): array => ['all' => ['hosts' => "hosts:{$this->subnet->id}:$filter"], 'prefix' => $this->subnet->id];
    $this->left = fn (): int => Host::query()->where('prefix_id', $this->subnet->id)->count();
});

it('offers all that match beside what a page shows, and says how many', function (): void {
    $this->get("/plan/prefix/{$this->subnet->id}?filter=till")->assertOk()
        ->assertSee("hosts:{$this->subnet->id}:till", false)->assertReads('all 119 that match');
    $this->get("/plan/prefix/{$this->subnet->id}")->assertOk()->assertReads('all 159');
    $this->get("/plan/prefix/{$this->subnet->id}?filter=lamp-15")->assertOk()->assertDontSee('name="all[hosts]"', false);
});

it('shows what follows for each of them, and takes exactly those', function (): void {
    $this->post('/act/release-hosts', ($this->all)('till') + ['then' => 'preview'], ['HX-Request' => 'true'])->assertOk()
        ->assertReads('Release 119 hosts');
    $this->post('/act/release-hosts', ($this->all)('till') + ['then' => 'commit', 'reason' => 'x'])->assertRedirect();
    expect(($this->left)())->toBe(40)
        ->and(Host::query()->where('prefix_id', $this->subnet->id)->where('name', 'like', 'till%')->count())->toBe(0);
});

it('wins over what is picked, and does not take another list for it', function (): void {
    $one = Host::query()->where('name', 'like', 'lamp-150%')->value('id');
    $this->post('/act/change-hosts', ($this->all)('till') + ['hosts' => [$one], 'owner' => 'Ferries', 'then' => 'commit'])
        ->assertRedirect();
    expect(Host::query()->where('owner', 'Ferries')->count())->toBe(119);
    foreach (['prefixes::', 'leases::', 'hosts', 'hosts::', 'hosts:nothing:', 'records:'.$this->w->zone->id.':'] as $other) {
        $this->post('/act/change-hosts', ['all' => ['hosts' => $other], 'owner' => 'Nobody', 'then' => 'commit']);
    }
    $this->post('/act/change-hosts', ['all' => 'hosts', 'owner' => 'Nobody', 'then' => 'commit']);
    $this->post('/act/change-hosts', ['all' => ['hosts' => ['deep' => 'x']], 'owner' => 'Nobody', 'then' => 'commit']);
    expect(Host::query()->where('owner', 'Nobody')->count())->toBe(0);
});

it('is what matches when it is done, and never more than was shown', function (): void {
    $shown = $this->post('/act/release-hosts', ($this->all)('till') + ['then' => 'preview'], ['HX-Request' => 'true'])->getContent();
    preg_match('/name="shown"[^>]*value="([^"]+)"/', (string) $shown, $m);
    expect($m[1] ?? '')->not->toBe('');
    $this->w->did(new PlaceMany([['prefix' => $this->subnet->id, 'address' => '198.51.100.200', 'name' => 'till-late']]));
    $this->post('/act/release-hosts', ($this->all)('till') + ['then' => 'commit', 'shown' => $m[1]])->assertStatus(409)
        ->assertReads('What was sent is not what was shown');
    expect(($this->left)())->toBe(160);
});

it('finds nothing beyond the reach of who asks', function (): void {
    $bound = $this->w->bound();
    expect(Matching::Hosts->ids($this->subnet->id, '', Reach::of($bound)))->toBe([])
        ->and(Matching::Inside->ids($this->w->top->id, '', Reach::of($bound)))->toBe([])
        ->and(Matching::Scopes->ids('', '', Reach::of($bound)))->toBe([])
        ->and(Matching::Leases->ids('', '', Reach::of($bound)))->toBe([])
        ->and(Matching::Hosts->ids($this->subnet->id, '', Reach::whole()))->toHaveCount(159);
    $this->actingAs($bound)->post('/act/release-hosts', ($this->all)('') + ['then' => 'commit']);
    expect(($this->left)())->toBe(159);
});

it('says when nothing matches any more and when too much does', function (): void {
    $this->post('/act/release-hosts', ($this->all)('nobody') + ['then' => 'commit'])->assertRedirect()
        ->assertSessionHas('bad', 'Nothing matches "nobody" any more');
    $wide = $this->w->carve('10.40.0.0/20', ['name' => 'Wide']);
    App\Database\Bulk::insert('addresses', array_map(fn (int $n): array => [
        'id' => (string) Illuminate\Support\Str::ulid(), 'space_id' => $this->w->space->id, 'prefix_id' => $wide->id, 'family' => 4,
        'address' => HarborPost\Core\Net\Address::parse('10.40.0.0')->plus($n)->bytes, 'name' => "w-$n", 'role' => 'host',
    ], range(1, Matching::AT_ONCE + 1)));
    $this->post('/act/release-hosts', ['all' => ['hosts' => "hosts:$wide->id:"], 'then' => 'commit'])->assertRedirect()
        ->assertSessionHas('bad', 'More than 2,000 match');
    $this->get("/plan/prefix/$wide->id")->assertOk()->assertDontSee('name="all[hosts]"', false);
});

it('takes all prefixes inside, at every depth a filter finds, and no open block', function (): void {
    $pier = $this->w->carve('10.60.0.0/16', ['kind' => 'supernet', 'name' => 'Pier']);
    for ($n = 0; $n < 130; $n++) {
        $this->w->carve("10.60.$n.0/26", ['name' => "berth-$n"]);
    }
    $all = ['all' => ['prefixes' => "inside:$pier->id:berth-1"], 'description' => 'counted'];
    $this->get("/plan/prefix/$pier->id")->assertOk()->assertReads('all 130');
    $this->post('/act/change-prefix', $all + ['then' => 'commit'])->assertRedirect();
    $marked = Prefix::query()->where('description', 'counted')->pluck('name')->all();
    expect($marked)->toHaveCount(1 + 10 + 30)
        ->and(array_filter($marked, fn (string $n): bool => ! str_starts_with($n, 'berth-1')))->toBe([]);
});

it('makes scopes on all subnets without one, and sets an option in all of them', function (): void {
    for ($n = 0; $n < 105; $n++) {
        $this->w->carve("10.61.$n.0/24", ['name' => "deck-$n"]);
    }
    $this->get('/lease/without?filter=deck')->assertOk()->assertReads('all 105 that match');
    $this->post('/act/make-scopes', [
        'all' => ['prefixes' => 'without::deck'], 'rule' => 'all but the first 20', 'servers' => [$this->w->servers['dh1']],
        'leaseTime' => '8h', 'stage' => 'planned', 'then' => 'commit', 'reason' => 'x',
    ])->assertRedirect();
    expect(Scope::query()->count())->toBe(105)->and(Matching::Without->ids('', 'deck', Reach::whole()))->toBe([])
        ->and(Matching::Coverage->ids('', '', Reach::whole()))->toHaveCount(0);
    $this->get('/lease?filter=is:planned')->assertOk()->assertReads('all 105 that match');
    $this->post('/act/set-option', [
        'all' => ['scopes' => 'scopes::is:planned'], 'code' => '42', 'value' => '192.0.2.9', 'then' => 'commit', 'reason' => 'x',
    ])->assertRedirect();
    expect(OptionValue::query()->where('code', 42)->count())->toBe(105);
});
