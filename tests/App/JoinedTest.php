<?php

declare(strict_types=1);

use App\Acts\Directory\MakeDomain;
use App\Acts\Directory\MakeVlan;
use App\Acts\Name\AddRecord;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Scan\KeepSwitchVlans;
use App\Models\Zone;
use App\Models\ZoneServer;
use App\Queries\Delegation\Delegated;
use App\Queries\Delegation\Inside;
use App\Queries\Delegation\State;
use App\Queries\Delegation\Tree;
use App\Queries\OldAnswers;
use App\Queries\Reach;
use App\View\Joined\Box;
use App\View\Joined\Drawing;
use App\View\Joined\Sign;
use App\View\Joined\Transfers;
use Carbon\CarbonImmutable;
use Illuminate\Support\Facades\DB;
use Tests\World;

/*
 * Drawings of what hangs on what: zones inside zones, copies of a zone, the way of a DISCOVER, and how long old answers last.
 */

beforeEach(function (): void {
    $this->travelTo(CarbonImmutable::parse('2026-03-04 10:00:00'));
    $this->w = World::make();
    $this->reach = Reach::of($this->w->people['reader']);
    $this->ns = fn (Zone $zone, string $name, string $target) => $this->w->did(
        AddRecord::fromInput(['zone' => $zone->id, 'name' => $name, 'type' => 'NS', 'data' => $target]),
    );
    $this->fresh = fn (): Zone => Zone::query()->with(['view', 'placements.server'])->findOrFail($this->w->zone->id);
    // What shipping does, without a server.
    $this->shipped = function (int $serial, CarbonImmutable $at): void {
        DB::table('record_changes')->where('zone_id', $this->w->zone->id)->whereNull('serial')->update(['serial' => $serial]);
        DB::table('zones')->where('id', $this->w->zone->id)->update(['serial' => $serial]);
        DB::table('zone_servers')->where('zone_id', $this->w->zone->id)->update(['shipped_serial' => $serial, 'shipped_at' => $at]);
    };
});

it('says of each zone inside another whether the one above leads there', function (): void {
    $top = $this->w->zone->name;
    foreach (['good', 'none', 'odd', 'deep.good'] as $name) {
        $this->w->zone("$name.$top");
    }
    $there = Zone::query()->where('name', "good.$top")->firstOrFail();
    foreach (['good' => $this->w->zone, 'deep' => $there] as $name => $zone) {
        ($this->ns)($zone, $name, 'ns1.quay.example.');
        ($this->ns)($zone, $name, 'ns2.quay.example.');
    }
    ($this->ns)($this->w->zone, 'odd', 'ns1.quay.example.');
    [$roots, $more] = Tree::of($this->reach, $top);
    $states = [];
    foreach ($roots[0]->all() as $one) {
        $states[substr($one->zone->name, 0, -strlen($top) - 1)] = $one->state;
    }
    expect($roots)->toHaveCount(1)->and($more)->toBeFalse()
        ->and($states)->toBe([
            '' => State::Top, 'good' => State::Good, 'deep.good' => State::Good, 'none' => State::Missing, 'odd' => State::Differs,
        ])
        ->and(array_map(fn (Inside $i): string => $i->name, $roots[0]->inside))->toBe(["good.$top", "none.$top", "odd.$top"])
        ->and($roots[0]->inside[0]->inside[0]->name)->toBe("deep.good.$top");
    // Beginning below, it is still known what is above.
    [$below] = Tree::of($this->reach, "none.$top");
    expect(array_map(fn (Delegated $d): string => $d->words(), $below[0]->all()))->toBe(['no NS above: not delegated']);
    $page = $this->actingAs($this->w->people['reader'])->get('/name/tree?under='.rtrim($top, '.'))->assertOk();
    $page->assertReads('Where no way leads 2')->assertReads('NS above differ from its own')->assertSee('class="joint stop"', false);
    $this->get('/name/tree?under=a..b')->assertOk()->assertSee('"a..b" is no name');
    $this->get('/name/tree?under=nowhere.invalid')->assertOk()->assertReads('No zone lies there');
    $this->actingAs($this->w->bound())->get('/name/tree')->assertForbidden();
});

it('asks the database as often for many zones as for few', function (): void {
    $count = function (): int {
        DB::flushQueryLog();
        DB::enableQueryLog();
        Tree::of($this->reach, '');

        return count(DB::getQueryLog());
    };
    $few = $count();
    foreach (range(1, 12) as $i) {
        $this->w->zone("z$i.{$this->w->zone->name}");
    }
    expect($count())->toBe($few);
});

it('knows how long caches may give what was before', function (): void {
    $record = function (string $name, string $ttl): App\Models\Record {
        $this->w->did(AddRecord::fromInput([
            'zone' => $this->w->zone->id, 'name' => $name, 'type' => 'A', 'data' => '192.0.2.9', 'ttl' => $ttl,
        ]));

        return App\Models\Record::query()->where('zone_id', $this->w->zone->id)->orderByDesc('id')->firstOrFail();
    };
    $old = $record('gate', '600');
    ($this->shipped)(2026030401, now()->subDays(2));
    expect(OldAnswers::of(($this->fresh)()))->toBe([]);
    $this->w->did(new App\Acts\Name\ChangeRecord($old->id, data: '192.0.2.10'));
    $record('lamp', '3600');
    // Nothing is old before it was shipped.
    expect(OldAnswers::of(($this->fresh)()))->toBe([]);
    ($this->shipped)(2026030402, now()->subMinutes(4));
    $told = OldAnswers::of(($this->fresh)());
    $top = $this->w->zone->name;
    expect($told["gate.$top 1"])->toMatchArray(['none' => false])->and($told["gate.$top 1"]['until']->format('H:i'))->toBe('10:06')
        ->and($told["gate.$top 1"]['left'])->toBeBetween(0.59, 0.61)
        // The name that is new may be known not to be there: for the negative TTL, five minutes.
        ->and($told["lamp.$top 1"])->toMatchArray(['none' => true])->and($told["lamp.$top 1"]['until']->format('H:i'))->toBe('10:01');
    $this->actingAs($this->w->people['reader'])->get("/name/zone/{$this->w->zone->id}")->assertReads('old answers until 10:06')
        ->assertReads('“no such name” until 10:01');
    $this->travel(7)->minutes();
    expect(OldAnswers::of(($this->fresh)()))->toBe([]);
    // While one server still gives the old zone, nobody knows when it ends.
    $this->travel(-7)->minutes();
    ZoneServer::query()->where('zone_id', $this->w->zone->id)->limit(1)->toBase()->update(['shipped_serial' => 1]);
    expect(OldAnswers::of(($this->fresh)()))->toBe([]);
});

it('draws the copies of a zone with a clock of what is left', function (): void {
    $zone = ($this->fresh)();
    [$first, $second] = $zone->placements->sortBy('part')->values()->all();
    $told = fn ($placement, array $more): array => $more + [
        'placement' => $placement, 'serial' => '7', 'step' => 'same', 'words' => 'in step', 'refreshed' => null, 'next' => null,
        'expires' => null, 'transfer' => '', 'trouble' => '',
    ];
    $svg = (string) Transfers::draw($zone, [
        $told($first, ['words' => 'the reference']),
        $told($second, [
            'step' => 'behind', 'words' => 'behind', 'expires' => now()->addSeconds(intdiv($zone->expire, 2)),
            'refreshed' => now()->subHour(),
        ]),
    ]);
    expect($svg)->toContain('serial 7, the reference')->toContain('heard of its primary 1 hour ago')->toContain('it serves alone until ')
        ->toContain('class="leftover"')->toContain('class="joint warn"');
    $expired = (string) Transfers::draw($zone, [
        $told($first, []), $told($second, ['step' => 'expired', 'words' => 'expired', 'expires' => now()->subMinute()]),
    ]);
    expect($expired)->toContain('it is too old to be served')->toContain('class="joint stop"')->not->toContain('class="leftover"');
    // Without a primary the copies stand alone.
    expect((string) Transfers::draw($zone, [$told($second, [])]))->not->toContain('class="joint');
});

it('draws boxes that lead somewhere, escaped and cut', function (): void {
    $long = 'it is "so" and goes on for much longer than a line of this box could hold, and on and on';
    $svg = (string) Drawing::of([new Box('<a&b>', [$long], '/x?a=1&b=2',
        Sign::Good, 1.0, [new Box(str_repeat('long-name.', 20), [], null, Sign::Wrong)])], 'A & B');
    expect($svg)->toContain('&lt;a&amp;b&gt;')->toContain('href="/x?a=1&amp;b=2"')->toContain('aria-label="A &amp; B"')
        ->toContain('…</text>')
        ->toContain('cutmark')->and(simplexml_load_string($svg))->not->toBeFalse();
    // All that was cut is said.
    expect($svg)->toContain(e('could hold, and on and on'))->toContain('<title>'.str_repeat('long-name.', 20).'</title>');
    expect(Drawing::clock(0.0, 1, 1))->not->toContain('leftover')->and(Drawing::clock(null, 1, 1))->toBe('')
        ->and(Drawing::clock(0.25, 10, 10))->toContain('A9 9 0 0 1 10.0')->and(Drawing::clock(0.75, 10, 10))->toContain('A9 9 0 1 1 10.0');
});

it('cuts the way of a DISCOVER where the switch does not relay', function (): void {
    $domain = MakeDomain::fromInput(['name' => 'Quay '.bin2hex(random_bytes(2))]);
    $this->w->did($domain);
    $make = MakeVlan::fromInput(['number' => '210', 'name' => 'GATES', 'domain' => $domain->id]);
    $this->w->did($make);
    $this->w->did(new ChangePrefix([$this->w->subnet->id], vlan: $make->id));
    $at = "/lease/scope/{$this->w->scope->id}";
    $this->actingAs($this->w->people['reader'])->get($at)->assertReads('From the VLAN to the scope')->assertReads('no relay leads to it')
        ->assertSee('aria-label="VLAN 210; GATES; switch: not on the switch"', false);
    $this->w->did(new KeepSwitchVlans([
        [
            'domain' => $domain->name, 'number' => 210, 'name' => 'GATES', 'gateway' => '192.0.2.1', 'relays' => ['192.0.2.67'],
            'denies' => [], 'ports' => 0,
        ],
    ]));
    $page = $this->get($at)->assertReads('no relay to 192.0.2.68');
    expect(substr_count((string) $page->getContent(), 'the switch relays to it</text>'))->toBe(1)
        ->and(substr_count((string) $page->getContent(), 'no relay leads to it</text>'))->toBe(1);
});
