<?php

declare(strict_types=1);

use App\Acts\Name\AddRecord;
use App\Acts\Plan\CarvePrefix;
use App\Acts\Plan\PlaceHost;
use App\Models\Host;
use App\Models\Prefix;
use App\Models\Record;
use App\Queries\PrefixPage;
use App\Queries\Reach;
use App\Queries\RulerRows;
use App\Queries\ZonePage;
use App\Shipping\Chain;
use App\View\Block;
use App\View\Dump;
use App\View\Level;
use App\View\Ruler;
use HarborPost\Core\Net\Prefix as Net;
use Tests\World;

/** @return list<string> kind, start and width in hundredths of a percent */
function drawn(Ruler $ruler): array
{
    return array_map(
        fn (Block $b): string => sprintf('%s %.2f+%.2f', $b->kind, $b->x, $b->width),
        $ruler->blocks,
    );
}

beforeEach(function (): void {
    $this->w = World::make(false);
    $this->reach = Reach::of($this->w->people['reader']);
});

it('draws children and open space to scale, without a gap', function (): void {
    $this->w->carve('192.0.2.192/27', ['name' => 'Gates']);
    $ruler = Ruler::of(RulerRows::of($this->w->top->refresh(), $this->reach));
    expect(drawn($ruler))->toBe([
        'prefix 0.00+50.00',
        'open 50.00+25.00',
        'prefix 75.00+12.50',
        'open 87.50+12.50',
    ])->and($ruler->bar)->toBe('one bar is a /28')
        ->and(array_column($ruler->ticks, 'text'))->toBe(['192.0.2.0', '192.0.2.64', '192.0.2.128', '192.0.2.192']);
});

it('joins small neighbours into strata that say how many they are and open on zoom', function (): void {
    $holder = $this->w->carve('10.0.0.0/12', ['kind' => 'supernet']);
    foreach (range(0, 13) as $i) {
        $this->w->carve("10.0.$i.0/24");
    }
    $first = Ruler::of(RulerRows::of($holder->refresh(), $this->reach))->blocks[0];
    expect($first->kind)->toBe('strata')
        ->and($first->name)->toBe('14 subnets')
        ->and($first->code)->toBe('/24')
        ->and(urldecode((string) $first->href))->toContain('zoom=10.0.0.0/');
    $zoomed = Ruler::of(RulerRows::of($holder, $this->reach, Net::parse('10.0.0.0/20')));
    expect(array_filter($zoomed->blocks, fn (Block $b): bool => $b->kind === 'prefix'))->toHaveCount(14);
});

it('breaks the scale for IPv6 and says so', function (): void {
    $holder = $this->w->carve('2001:db8::/40', ['kind' => 'supernet']);
    $this->w->carve('2001:db8::/64');
    $this->w->carve('2001:db8:0:1::/64');
    $ruler = Ruler::of(RulerRows::of($holder->refresh(), $this->reach));
    expect($ruler->broken)->toBeTrue()
        ->and($ruler->bar)->toContain('scale broken')
        ->and(drawn($ruler))->toBe(['prefix 0.00+50.00', 'prefix 50.00+50.00']);
});

it('names the stage and the edit of a draft in words', function (): void {
    $row = $this->w->carve('192.0.2.128/26', ['name' => 'Gates', 'stage' => 'withheld']);
    $drafted = ["prefix:$row->id" => 'in your draft: Change Gates'];
    $block = Ruler::of(RulerRows::of($this->w->top->refresh(), $this->reach), $row->id, $drafted)->blocks[1];
    expect($block->look)->toBe('hatched withheld chosen drafted')
        ->and($block->title)->toContain('withheld')
        ->and($block->title)->toContain('in your draft');
});

it('says how full a prefix is, counting what the page names', function (): void {
    $subnet = $this->w->carve('192.0.2.128/29', ['stage' => 'live']);
    foreach (range(129, 133) as $host) {
        $this->w->did(PlaceHost::fromInput(['prefix' => $subnet->id, 'address' => "192.0.2.$host"]));
    }
    (new PrefixPage($this->reach))->foldIn(new Illuminate\Database\Eloquent\Collection([$subnet]));
    $level = Level::of($subnet);
    expect($level->figure)->toBe('83%')->and($level->high)->toBeTrue();
    expect(Level::of($this->w->top->refresh())->figure)->toBe('53%');
});

it('pages children by address, nothing twice and nothing left out', function (): void {
    $holder = $this->w->carve('10.0.0.0/16', ['kind' => 'supernet']);
    foreach (range(0, 109) as $i) {
        $this->w->did(CarvePrefix::fromInput(['space' => $this->w->space->id, 'prefix' => "10.0.$i.0/24"]));
    }
    $page = new PrefixPage($this->reach);
    $first = $page->children($holder->refresh(), null, '', '');
    $second = $page->children($holder, null, (string) $first['next'], '');
    $names = array_map(strval(...), array_map(
        fn (Prefix|Net $r): Net => $r instanceof Prefix ? $r->prefix() : $r,
        [...$first['rows'], ...$second['rows']],
    ));
    expect($first['next'])->toBe('10.0.100.0')
        ->and($names)->toBe(array_values(array_unique($names)))
        ->and(array_filter($names, fn (string $n): bool => str_ends_with($n, '/24')))->toHaveCount(110);
});

it('filters children by words', function (string $filter, array $names): void {
    $this->w->carve('192.0.2.128/26', ['name' => 'Gates', 'stage' => 'planned']);
    $this->w->carve('192.0.2.192/26', ['name' => 'Gate lamps', 'stage' => 'live']);
    $rows = (new PrefixPage($this->reach))->children($this->w->top->refresh(), null, '', $filter)['rows'];
    expect(array_map(fn ($r): string => $r->name, $rows))->toBe($names);
})->with([
    ['Gate', ['Gates', 'Gate lamps']],
    ['Gate stage:live', ['Gate lamps']],
    ['stage:planned', ['Gates']],
    ['192.0.2.192/26', ['Gate lamps']],
    ['site:nowhere', []],
]);

it('filters records by name, type, TTL and data', function (string $filter, array $found): void {
    foreach (
        [['www', 'A', '192.0.2.7', '60'], ['www', 'TXT', '"x"', ''], ['web.shop', 'A', '192.0.2.8', '']] as [$name, $type, $data, $ttl]
    ) {
        $this->w->did(
            AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => $name, 'type' => $type, 'data' => $data, 'ttl' => $ttl]),
        );
    }
    $rows = ZonePage::records($this->w->zone, $filter, '', Reach::of($this->w->people['planner']))['rows'];
    expect($rows->map(fn (Record $r): string => $r->typeName().' '.explode('.', $r->owner)[0])->sort()->values()->all())->toBe($found);
})->with([
    ['www', ['A www', 'TXT www']],
    ['w type:a', ['A web', 'A www']],
    ['ttl<100', ['A www']],
    ['data:192.0.2.8', ['A web']],
    ['type:nonsense', []],
    ['%', []],
]);

it('pages records between names', function (): void {
    foreach (range(1, 90) as $i) {
        foreach ([1, 2] as $j) {
            $this->w->did(
                AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => sprintf('n%03d', $i), 'type' => 'A', 'data' => "192.0.2.$j"]),
            );
        }
    }
    $first = ZonePage::records($this->w->zone, '', '', Reach::of($this->w->people['planner']), most: 0);
    $second = ZonePage::records($this->w->zone, '', (string) $first['next'], Reach::of($this->w->people['planner']), most: 0);
    $owners = $first['rows']->pluck('owner')->unique();
    expect($owners->intersect($second['rows']->pluck('owner')->unique()))->toHaveCount(0)
        ->and($first['rows']->count() + $second['rows']->count())->toBe(182)
        ->and($second['next'])->toBeNull();
    $filtered = ZonePage::records($this->w->zone, 'n0', '', Reach::of($this->w->people['planner']), most: 0);
    $rest = ZonePage::records($this->w->zone, 'n0', (string) $filtered['next'], Reach::of($this->w->people['planner']), most: 0);
    expect($filtered['rows']->count() + $rest['rows']->count())->toBe(180);
});

it('puts hosts, records and prefixes in the order that is asked for, the whole list and not the page', function (): void {
    $host = fn (int $i, string $name, string $role) => PlaceHost::fromInput([
        'prefix' => $this->w->subnet->id, 'address' => "192.0.2.$i", 'name' => $name, 'role' => $role,
        'mac' => sprintf('02:00:5e:00:53:%02x', 90 - $i),
    ]);
    foreach ([[20, 'till-10', 'service'], [21, 'till-2', 'virtual'], [22, 'till-1', 'host']] as [$i, $name, $role]) {
        $this->w->did($host($i, $name, $role));
    }
    $page = new PrefixPage(Reach::of($this->w->people['planner']));
    $names = fn (string $sort): array => $page->hosts($this->w->subnet, '', 'till', $sort, 1)->rows
        ->map(fn (Host $h): string => explode('.', $h->name)[0])->all();
    expect($names(''))->toBe(['till-10', 'till-2', 'till-1'])->and($names('name'))->toBe(['till-1', 'till-2', 'till-10'])
        ->and($names('-name'))->toBe(['till-10', 'till-2', 'till-1'])->and($names('role'))->toBe(['till-1', 'till-10', 'till-2'])
        ->and($names('mac'))->toBe(['till-1', 'till-2', 'till-10'])->and($names('device'))->toHaveCount(3);
    foreach ([['a2', '60', '192.0.2.12'], ['a1', '600', '192.0.2.112'], ['a10', '', '192.0.2.5']] as [$name, $ttl, $data]) {
        $this->w->did(AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => $name, 'type' => 'A', 'data' => $data, 'ttl' => $ttl]));
    }
    $records = fn (string $sort): array => ZonePage::records($this->w->zone, 'a', '', Reach::of($this->w->people['planner']), $sort)['rows']
        ->map(fn (Record $r): string => explode('.', $r->owner)[0])->all();
    expect($records('data'))->toBe(['a10', 'a2', 'a1'])->and($records('-data'))->toBe(['a1', 'a2', 'a10'])
        ->and($records('ttl'))->toBe(['a10', 'a2', 'a1']);
    $above = $this->w->subnet->parent ?? $this->w->carve('198.51.100.0/24', ['kind' => 'supernet']);
    $sorted = $page->sorted($above, null, '', '-name', 1);
    expect($page->sorted($above, null, '', 'prefix', 1))->toBeNull()->and($page->sorted($above, null, '', 'nonsense', 1))->toBeNull()
        ->and($sorted?->total)->toBe(Prefix::query()->where('parent_id', $above->id)->count());
    $this->actingAs($this->w->people['planner'])->get("/plan/prefix/$above->id?sort=-name&filter=site:x")->assertOk();
    $this->get("/plan/prefix/{$this->w->subnet->id}?sort=-device&filter=till")->assertOk()->assertSee('aria-sort="descending"', false);
    $this->get("/name/zone/{$this->w->zone->id}?sort=type&page=2")->assertOk();
});

it('takes no harm from an order, a page or a place that is none', function (string $query): void {
    $this->actingAs($this->w->people['planner']);
    $above = $this->w->subnet->parent_id ?? $this->w->carve('198.51.100.0/24', ['kind' => 'supernet'])->id;
    $pages = [
        "/plan/prefix/{$this->w->subnet->id}", "/plan/prefix/$above", "/name/zone/{$this->w->zone->id}", '/directory/devices', '/name',
    ];
    foreach ($pages as $page) {
        expect($this->get("$page?$query")->getStatusCode())->toBeIn([200, 400, 422]);
    }
})->with([
    'sort=name%27%3B--', 'sort=-', 'sort=--name', 'sort=%00', 'sort[]=name', 'page=-5', 'page=0', 'page=99999999999999', 'page=1e9',
    'page[]=2', 'from=fish', 'from=2001%3Adb8%3A%3A1', 'sort=name&from=192.0.2.200', 'after=zz-9', 'after=00-99999999&sort=ttl',
    'filter=%25&sort=-data',
]);

it('says how far a record set has come', function (?int $shipped, bool $verified, bool $waits, string $words): void {
    $zone = $this->w->zone->load('placements');
    $zone->serial = 5;
    foreach ($zone->placements as $placement) {
        $placement->shipped_serial = $shipped;
        $placement->verified_at = $verified ? Carbon\CarbonImmutable::now() : null;
    }
    expect(Chain::ofSet($zone, $waits)->words)->toBe($words);
})->with([
    [null, false, false, 'saved, not shipped'],
    [4, true, false, 'saved, not shipped'],
    [5, false, false, 'in effect on 0 of 2'],
    [5, true, false, 'in effect'],
    [5, true, true, 'saved, not shipped'],
]);

it('shows bytes as rows of sixteen', function (): void {
    expect(Dump::of("abc\0".str_repeat('x', 14)))->toBe(
        "0000  61 62 63 00 78 78 78 78 78 78 78 78 78 78 78 78  abc.xxxxxxxxxxxx\n".
        '0010  78 78                                            xx',
    );
});
