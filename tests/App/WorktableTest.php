<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeView;
use App\Acts\Directory\MakeTenant;
use App\Acts\Directory\MakeView;
use App\Acts\Engine\Act;
use App\Acts\Name\AddRecord;
use App\Acts\Name\ChangeRecord;
use App\Acts\Name\ChangeRecords;
use App\Acts\Name\GrantName;
use App\Acts\Name\KeepSweep;
use App\Acts\Name\MakeZone;
use App\Acts\Name\MendNames;
use App\Acts\Name\PasteRecords;
use App\Acts\Name\RemoveRecords;
use App\Acts\Name\RevokeName;
use App\Acts\Name\ShareRecords;
use App\Acts\Name\StartSweep;
use App\Acts\Name\UndoRecords;
use App\Jobs\RunSweep;
use App\Live\ResolverPath;
use App\Models\NameGrant;
use App\Models\Record;
use App\Models\RunState;
use App\Models\Sweep;
use App\Models\Zone;
use App\Queries\ViewDifference;
use HarborPost\Core\Net\Address;
use Illuminate\Support\Facades\DB;
use Tests\World;

/*
 * Records by the dozen: edited, pasted, undone, shared, granted, swept.
 */

beforeEach(function (): void {
    $this->w = World::make(false);
    $this->add = function (string $name, string $type, string $data, string $ttl = '', ?Zone $zone = null): Record {
        $act = AddRecord::fromInput([
            'zone' => ($zone ?? $this->w->zone)->id, 'name' => $name, 'type' => $type, 'data' => $data, 'ttl' => $ttl,
        ]);
        $this->w->did($act, $this->w->people['operator']);

        return Record::query()->where('zone_id', ($zone ?? $this->w->zone)->id)->orderByDesc('id')->firstOrFail();
    };
    $this->lines = fn (?Zone $zone = null): array => Record::query()->where('zone_id', ($zone ?? $this->w->zone)->id)
        ->where('type', '!=', 2)->orderBy('owner_key')->orderBy('type')->orderBy('data')->get()
        ->map(fn (Record $r): string => explode('.', $r->owner)[0].' '.($r->ttl ?? '-')." {$r->typeName()} $r->data")
        ->all();
    $this->code = fn (Act $act, string $who = 'operator'): ?string => $this->w->acts()
        ->rehearse($this->w->people[$who], [$act])->block()?->code;
    $this->did = fn (Act $act, string $who = 'operator') => $this->w->did($act, $this->w->people[$who]);
});

it('changes many records at once: one TTL, a part of the data, a part of the names', function (): void {
    $ids = [
        ($this->add)('till-1', 'A', '192.0.2.11', '60')->id,
        ($this->add)('till-2', 'A', '192.0.2.12')->id,
        ($this->add)('kiosk', 'A', '198.51.100.1')->id,
    ];
    ($this->did)(new ChangeRecords($ids, ttl: '5m'));
    expect(($this->lines)())->toBe(['kiosk 300 A 198.51.100.1', 'till-1 300 A 192.0.2.11', 'till-2 300 A 192.0.2.12']);
    ($this->did)(new ChangeRecords($ids, ttl: 'inherit', find: '192.0.2.', replace: '203.0.113.'));
    expect(($this->lines)())->toBe(['kiosk - A 198.51.100.1', 'till-1 - A 203.0.113.11', 'till-2 - A 203.0.113.12']);
    ($this->did)(new ChangeRecords($ids, find: 'till', replace: 'counter', in: 'name'));
    expect(($this->lines)())->toBe(['counter-1 - A 203.0.113.11', 'counter-2 - A 203.0.113.12', 'kiosk - A 198.51.100.1'])
        ->and(($this->code)(new ChangeRecords($ids, find: 'nowhere', replace: 'x')))->toBe('not-found')
        ->and(($this->code)(new ChangeRecords($ids, ttl: 'soon')))->toBe('bad-ttl')
        ->and(($this->code)(new ChangeRecords([...$ids, 'not-available'])))->toBe('not-available')
        ->and(($this->code)(new ChangeRecords($ids, find: '203', replace: '999')))->toBe('bad-data');
});

it('takes pasted lines, inherits where no TTL is written, and names every fault at its place', function (): void {
    $text = "till-9 A 192.0.2.19\nwww 300 IN CNAME till-9\n@ MX 10 mail.quay.example.\n        TXT \"two\" \"parts\"\n";
    ($this->did)(new PasteRecords($this->w->zone->id, $text));
    expect(($this->lines)())->toBe([
        'quay-'.substr($this->w->zone->name, 5, 6).' - MX 10 mail.quay.example.',
        'quay-'.substr($this->w->zone->name, 5, 6).' - TXT "two" "parts"', 'till-9 - A 192.0.2.19',
        "www 300 CNAME till-9.{$this->w->zone->name}",
    ]);
    $outcome = $this->w->acts()
        ->rehearse($this->w->people['operator'], [new PasteRecords($this->w->zone->id, "a A 192.0.2.300\nb A 192.0.2.1\nc NOSUCH x\n")]);
    $said = array_map(fn ($n): string => $n->message, $outcome->notes());
    expect($outcome->blocked())->toBeTrue()->and(implode("\n", $said))->toContain('Line 1, column')
        ->toContain('Line 3, column')->toContain('2 lines cannot be read')->and(($this->lines)())->toHaveCount(4)
        ->and(($this->code)(new PasteRecords($this->w->zone->id, '; nothing')))->toBe('nothing-pasted')
        ->and(($this->code)(new PasteRecords($this->w->zone->id, "www A 192.0.2.1\n")))->toBe('cname-beside-data')
        ->and(($this->code)(new PasteRecords($this->w->zone->id, "x.elsewhere.example. A 192.0.2.1\n")))
        ->toBe('owner-outside');
    $this->actingAs($this->w->people['operator'])
        ->post('/act/paste-records', ['zone' => $this->w->zone->id, 'text' => "a A 192.0.2.300\n", 'then' => 'preview'])
        ->assertStatus(422)->assertSee('Line 1, column');
});

it('undoes additions, removals and changes, unless somebody changed the same since', function (): void {
    $before = ($this->lines)();
    $record = ($this->add)('till', 'A', '192.0.2.11', '60');
    $act = fn (): string => (string) DB::table('history')->where('object_type', 'record')->orderByDesc('id')->value('act_id');
    $added = $act();
    ($this->did)(new ChangeRecord($record->id, '192.0.2.12'));
    $changed = $act();
    expect(($this->code)(new UndoRecords($added)))->toBe('changed-since');
    ($this->did)(new UndoRecords($changed));
    expect(($this->lines)())->toBe(['till 60 A 192.0.2.11']);
    ($this->did)(new ChangeRecord($record->id, ttl: '120'));
    ($this->did)(new UndoRecords($act()));
    expect(($this->lines)())->toBe(['till 60 A 192.0.2.11']);
    ($this->did)(new RemoveRecords([$record->id], $this->w->zone->id));
    ($this->did)(new UndoRecords($act()));
    expect(($this->lines)())->toBe(['till 60 A 192.0.2.11']);
    ($this->did)(new PasteRecords($this->w->zone->id, "a A 192.0.2.1\nb A 192.0.2.2\n"));
    $this->actingAs($this->w->people['operator'])->get("/name/zone/{$this->w->zone->id}/lately")->assertOk()
        ->assertSee('and 1 more')->assertSee('Undo')->assertSee('<nav', false);
    // What comes into the page of the zone is the list alone.
    $this->get("/name/zone/{$this->w->zone->id}/lately", ['HX-Request' => 'true'])->assertOk()->assertSee('Undo')
        ->assertDontSee('<nav', false);
    ($this->did)(new UndoRecords($act()));
    expect(($this->lines)())->toBe(['till 60 A 192.0.2.11'])->and(($this->code)(new UndoRecords('nothing')))->toBe('gone')
        ->and(($this->code)(new UndoRecords((string) DB::table('history')->where('object_type', 'zone')->value('act_id'))))->toBe(
            'not-only-records',
        );
});

it('shares records between views so that they change together, or keeps them apart', function (): void {
    $view = MakeView::fromInput(['name' => 'far-'.bin2hex(random_bytes(3)), 'clients' => ['198.51.100.0/24']]);
    $this->w->did($view);
    $make = MakeZone::fromInput([
        'name' => $this->w->zone->name, 'view' => $view->id, 'servers' => [$this->w->servers['ns1']],
        'nameServers' => 'ns1.quay.example.',
    ]);
    $this->w->did($make);
    $far = Zone::query()->findOrFail($make->id);
    $record = ($this->add)('mail', 'A', '192.0.2.25');
    ($this->add)('inner', 'A', '192.0.2.26');
    $states = fn (): array => array_column(ViewDifference::of($this->w->zone, $far, true)['rows'], 'state', 'owner');
    expect($states()["mail.{$this->w->zone->name}"])->toBe('left');
    ($this->did)(new ShareRecords([$record->id], [$view->id]));
    expect($states()["mail.{$this->w->zone->name}"])->toBe('shared')->and(($this->lines)($far))->toBe(['mail - A 192.0.2.25']);
    ($this->did)(new ChangeRecord($record->id, '192.0.2.99', '300'));
    expect(($this->lines)($far))->toBe(['mail 300 A 192.0.2.99'])->and($states()["mail.{$this->w->zone->name}"])->toBe('shared');
    ($this->did)(new ShareRecords([$record->id]));
    ($this->did)(new ChangeRecord($record->refresh()->id, '192.0.2.50'));
    expect(($this->lines)($far))->toBe(['mail 300 A 192.0.2.99'])->and($states()["mail.{$this->w->zone->name}"])->toBe('differs');
    ($this->did)(new ChangeRecord($record->refresh()->id, '192.0.2.99'));
    expect($states()["mail.{$this->w->zone->name}"])->toBe('same');
    ($this->did)(new ShareRecords([$record->refresh()->id], [$view->id]));
    ($this->did)(new RemoveRecords([$record->id], $this->w->zone->id));
    expect(($this->lines)($far))->toBe([]);
    $this->actingAs($this->w->people['operator'])
        ->get("/name/views?zone={$this->w->zone->title()}&client=198.51.100.9&name={$this->w->zone->title()}")
        ->assertOk()->assertSee($view->name)->assertSee('only in');
    expect(ResolverPath::viewOf(Address::parse('192.0.2.9'))?->id)->toBe($this->w->view);
    ($this->did)(new ChangeView($view->id, ['192.0.2.0/25', '198.51.100.0/24'], 1));
    expect(ResolverPath::viewOf(Address::parse('192.0.2.9'))?->id)->toBe($view->id)
        ->and(($this->code)(new ChangeView($view->id, ['192.0.2.1/24'])))->toBe('not-a-prefix');
    $notes = $this->w->acts()->rehearse($this->w->people['operator'], [new ChangeView($this->w->view, ['192.0.2.0/26'])])->notes();
    expect(array_map(fn ($n): string => $n->code, $notes))->toContain('view-shadowed');
});

it('lets somebody edit one name or what is below it, and nothing else', function (): void {
    $reader = $this->w->people['reader'];
    $inside = ($this->add)('a.lab', 'A', '192.0.2.30');
    $outside = ($this->add)('till', 'A', '192.0.2.11');
    $new = fn (string $name) => AddRecord::fromInput([
        'zone' => $this->w->zone->id, 'name' => $name, 'type' => 'A', 'data' => '192.0.2.31',
    ]);
    expect(($this->code)($new('b.lab'), 'reader'))->toBe('not-allowed');
    ($this->did)(new GrantName($this->w->zone->id, $reader->id, (string) Str::ulid(), 'lab', true), 'planner');
    expect(($this->code)($new('b.lab'), 'reader'))->toBeNull()->and(($this->code)($new('other'), 'reader'))
        ->toBe('no-right-on-name')->and(($this->code)(new ChangeRecord($inside->id, '192.0.2.32'), 'reader'))
        ->toBeNull()
        ->and(($this->code)(new ChangeRecord($outside->id, '192.0.2.32'), 'reader'))->toBe('no-right-on-name')
        ->and(($this->code)(new ChangeRecord($inside->id, name: 'escaped'), 'reader'))->toBe('no-right-on-name')
        ->and(($this->code)(new RemoveRecords([$inside->id, $outside->id]), 'reader'))->toBe('no-right-on-name')
        ->and(($this->code)(new PasteRecords($this->w->zone->id, "c.lab A 192.0.2.1\nother A 192.0.2.2\n"), 'reader'))
        ->toBe('no-right-on-name')
        ->and(($this->code)(new ChangeRecords([$outside->id], ttl: '60'), 'reader'))->toBe('no-right-on-name')
        ->and(($this->code)(new GrantName($this->w->zone->id, $reader->id, (string) Str::ulid(), 'lab'), 'planner'))
        ->toBe('granted-already')
        ->and(($this->code)(new GrantName($this->w->zone->id, $reader->id, (string) Str::ulid()), 'operator'))->toBe('not-allowed');
    ($this->did)(new GrantName($this->w->zone->id, $reader->id, (string) Str::ulid(), 'till', type: 'TXT'), 'planner');
    $text = AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => 'till', 'type' => 'TXT', 'data' => '"open"']);
    expect(($this->code)($text, 'reader'))->toBeNull()->and(($this->code)($new('till'), 'reader'))
        ->toBe('no-right-on-name')->and(($this->code)(new ChangeRecord($outside->id, '192.0.2.32'), 'reader'))
        ->toBe('no-right-on-name')
        ->and(($this->code)(new GrantName($this->w->zone->id, $reader->id, (string) Str::ulid(), 'x', type: 'NOSUCH'), 'planner'))->toBe(
            'type-unknown',
        );
    $page = $this->actingAs($reader)->get("/name/zone/{$this->w->zone->id}")->assertOk()->assertSee('Add a record');
    expect($page->getContent())->toContain($inside->id)->not->toContain("value=\"$outside->id\"");
    ($this->did)(new RevokeName(NameGrant::query()->where('person_id', $reader->id)->whereNull('type')->sole()->id), 'planner');
    expect(($this->code)($new('b.lab'), 'reader'))->toBe('no-right-on-name')->and(($this->code)($text, 'reader'))->toBeNull();
});

it('shows a tenant\'s own admin only the names that were given to them in another\'s zone', function (): void {
    $tenant = MakeTenant::fromInput(['name' => 'Guest '.bin2hex(random_bytes(3))]);
    $this->w->did($tenant);
    $guest = $this->w->person('guest-'.bin2hex(random_bytes(3)), ['tenant-admin'], $tenant->id);
    $own = ($this->add)('stand', 'A', '192.0.2.40');
    $secret = ($this->add)('secret', 'A', '192.0.2.41');
    $this->actingAs($guest)->get("/name/zone/{$this->w->zone->id}")->assertNotFound();
    $this->w->did(new GrantName($this->w->zone->id, $guest->id, (string) Str::ulid(), 'stand'));
    $this->get("/name/zone/{$this->w->zone->id}")->assertOk()->assertSee('192.0.2.40')->assertDontSee('192.0.2.41')
        ->assertDontSee('secret');
    $this->get('/find?q=secret')->assertOk()->assertDontSee('192.0.2.41');
    expect($this->w->acts()->rehearse($guest, [new ChangeRecord($own->id, '192.0.2.42')])->blocked())->toBeFalse()
        ->and($this->w->acts()->rehearse($guest, [new ChangeRecord($secret->id, '192.0.2.42')])->block()?->code)
        ->toBe('not-available');
    $this->get("/name/zone/{$this->w->zone->id}/timeline?name=stand.{$this->w->zone->name}")->assertOk();
    $this->get("/name/zone/{$this->w->zone->id}/timeline?name=secret.{$this->w->zone->name}")->assertForbidden();
    $this->get("/name/zone/{$this->w->zone->id}/lately")->assertOk()->assertDontSee('secret');
    foreach (['service', 'drift', 'checks', 'export.zone'] as $page) {
        $this->get("/name/zone/{$this->w->zone->id}/$page")->assertForbidden();
    }
});

it('sweeps forward against reverse and mends what is chosen as one act', function (): void {
    $zone = $this->w->zone->name;
    DB::table('records')->whereNotIn('zone_id', [$this->w->zone->id, $this->w->reverse->id])->whereIn('type', [1, 28, 12])->delete();
    ($this->add)('agrees', 'A', '192.0.2.11');
    ($this->add)('11', 'PTR', "agrees.$zone", '', $this->w->reverse);
    ($this->add)('missing', 'A', '192.0.2.12');
    ($this->add)('differs', 'A', '192.0.2.13');
    ($this->add)('13', 'PTR', "agrees.$zone", '', $this->w->reverse);
    ($this->add)('one', 'A', '192.0.2.14');
    ($this->add)('two', 'A', '192.0.2.14');
    ($this->add)('14', 'PTR', "two.$zone", '', $this->w->reverse);
    ($this->add)('15', 'PTR', "gone.$zone", '', $this->w->reverse);
    ($this->add)('16', 'PTR', 'theirs.far.example.', '', $this->w->reverse);
    ($this->add)('uncovered', 'A', '203.0.113.1');
    $act = StartSweep::fromInput([]);
    ($this->did)($act);
    expect(($this->code)(StartSweep::fromInput([])))->toBe('sweep-runs');
    (new RunSweep($act->id))->handle($this->w->acts());
    $found = fn (): array => DB::table('sweep_findings')->where('sweep_id', $act->id)->where('mended', false)
        ->orderBy('id')->get()->map(fn ($f): string => "$f->code ".explode('.', (string) $f->name)[0])->sort()->values()
        ->all();
    expect($found())
        ->toBe(['differing differs', 'missing missing', 'orphan 13', 'orphan 15', 'several one', 'uncovered uncovered'])
        ->and(Sweep::query()->find($act->id)?->state)->toBe(RunState::Done);
    $this->actingAs($this->w->people['operator'])->get("/name/sweep/$act->id?code=missing")->assertOk()
        ->assertSee('missing.')->assertSee('writing the PTR');
    $of = fn (string $code): array => array_map(
        strval(...),
        DB::table('sweep_findings')->where('sweep_id', $act->id)->where('code', $code)->pluck('id')->all(),
    );
    ($this->did)(new MendNames($act->id, [...$of('missing'), ...$of('differing'), ...$of('several')]));
    ($this->did)(new MendNames($act->id, [], 'orphan'));
    $pointers = Record::query()->where('zone_id', $this->w->reverse->id)->where('type', 12)->orderBy('owner')
        ->pluck('data', 'owner')->all();
    expect($pointers)->toBe([
        '11.2.0.192.in-addr.arpa.' => "agrees.$zone", '12.2.0.192.in-addr.arpa.' => "missing.$zone",
        '13.2.0.192.in-addr.arpa.' => "differs.$zone", '14.2.0.192.in-addr.arpa.' => "one.$zone",
        '16.2.0.192.in-addr.arpa.' => 'theirs.far.example.',
    ])
        ->and($found())->toBe(['uncovered uncovered'])->and(($this->code)(new MendNames($act->id, [], 'uncovered')))
        ->toBe('nothing-chosen')->and(($this->code)(new MendNames($act->id, [], 'missing')))
        ->toBe('nothing-chosen');
    $again = StartSweep::fromInput([]);
    ($this->did)($again);
    ($this->did)(new KeepSweep($again->id, RunState::Cancelled));
    (new RunSweep($again->id))->handle($this->w->acts());
    expect(Sweep::query()->find($again->id)?->state)->toBe(RunState::Cancelled);
});

it('lists findings with the act that mends them, and filters by check', function (): void {
    $a = ($this->add)('pair', 'A', '192.0.2.1', '0');
    ($this->add)('dangling', 'CNAME', 'nowhere');
    $page = $this->actingAs($this->w->people['operator'])->get("/name/zone/{$this->w->zone->id}/checks")->assertOk()
        ->assertSee('dangling')->assertSee('pair');
    $page->assertSee('Inherit the TTL');
    $this->get("/name/zone/{$this->w->zone->id}?filter=check:any")->assertSee('dangling')->assertSee('pair');
    ($this->did)(new ChangeRecord($a->id, ttl: ''));
    $this->get("/name/zone/{$this->w->zone->id}/checks")->assertDontSee('pair');
});

it('finds targets that are missing in another zone of ours', function (): void {
    $child = $this->w->zone('sub.'.$this->w->zone->title());
    ($this->add)('sub', 'NS', 'ns1.quay.example.');
    ($this->add)('leads', 'CNAME', "nowhere.$child->name");
    ($this->add)('reaches', 'CNAME', "there.$child->name");
    ($this->add)('abroad', 'CNAME', 'www.far.example.');
    ($this->add)('there', 'A', '192.0.2.5', '', $child);
    ($this->add)('*.wild', 'A', '192.0.2.6', '', $child);
    ($this->add)('by-wildcard', 'CNAME', "any.wild.$child->name");
    $found = array_map(
        fn (array $f): string => $f['code'].' '.explode('.', $f['owner'])[0],
        App\Queries\ZoneFindings::of($this->w->zone->refresh()),
    );
    expect($found)->toContain('target-missing leads')->not->toContain('target-missing reaches')->not
        ->toContain('target-missing abroad')->not->toContain('target-missing by-wildcard');
});
