<?php

declare(strict_types=1);

use App\Acts\Drafts\Drafts;
use App\Acts\Drafts\DraftWork;
use App\Acts\Drafts\EndDraft;
use App\Acts\Plan\ChangePrefix;
use App\Models\Draft;
use App\Models\DraftDecision;
use App\Models\DraftHand;
use App\Models\DraftState;
use App\Models\Host;
use App\Models\Person;
use App\Queries\Called;
use App\Queries\Invariants;
use App\Shipping\Destinations;
use App\View\DraftSheet;
use Illuminate\Support\Facades\DB;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    ['operator' => $this->author, 'approver' => $this->tobin, 'planner' => $this->planner, 'steward' => $this->steward] = $this->w->people;
    $this->mate = $this->w->person('mate-'.bin2hex(random_bytes(3)), ['operator']);
    $this->edit = function (string $act, array $input, ?Person $by = null): Draft {
        $by ??= $this->author;
        $this->actingAs($by)->post("/act/$act", $input + ['then' => 'draft'])->assertRedirect();

        return Drafts::open($by) ?? throw new RuntimeException('no draft');
    };
    $this->host = fn (string $name, ?Person $by = null): Draft => ($this->edit)('place-host', [
        'prefix' => $this->w->subnet->id, 'name' => $name, 'zone' => $this->w->zone->id, 'ptr' => '1',
    ], $by);
    $this->names = fn (Draft $d): array => $d->refresh()->edits->map(fn ($e): string => $e->input['name'])->all();
    $this->at = fn (Draft $d, int $i, string $what, array $more = []) => $this->post(
        "/ship/drafts/$d->id/edits/{$d->refresh()->edits[$i]->id}",
        ['what' => $what] + $more,
    );
    $this->commits = function (Draft $d, ?Person $by = null) {
        $by ??= $this->author;
        $d = Draft::query()->with('edits')->findOrFail($d->id);
        $shown = $this->w->acts()->rehearse($by, [...Drafts::acts($d), new EndDraft($d->id)], Drafts::expects($d))->digest();

        return $this->actingAs($by)->post("/ship/drafts/$d->id/commit", ['shown' => $shown, 'reason' => 'checked']);
    };
    $this->hosts = fn (): array => Host::query()->where('prefix_id', $this->w->subnet->id)->orderBy('name')->pluck('name')
        ->map(fn (string $n): string => explode('.', $n)[0])->all();
});

it('keeps several drafts, and edits go to the one that was taken up', function (): void {
    $first = ($this->host)('till-1');
    $this->post('/act/start-draft', ['name' => 'Gates', 'then' => 'commit']);
    $second = ($this->host)('till-2');
    expect($second->id)->not->toBe($first->id)->and($second->title)->toBe('Gates');
    $this->post('/act/take-up-draft', ['draft' => $first->id, 'then' => 'commit']);
    ($this->host)('till-3');
    expect(($this->names)($first))->toBe(['till-1', 'till-3'])->and(($this->names)($second))->toBe(['till-2']);
    $this->get('/ship/drafts')->assertOk()->assertReads('Gates')->assertReads('go here');
    // Committing one leaves the other; the next edit begins a new one.
    ($this->commits)($first)->assertRedirect('/ship');
    expect(($this->hosts)())->toBe(['till-1', 'till-3'])->and($second->refresh()->state)->toBe(DraftState::Open)
        ->and(Drafts::open($this->author))->toBeNull();
    $this->get('/ship/draft')->assertOk()->assertReads('You work on 1 draft');
    expect(($this->host)('till-4')->id)->not->toBeIn([$first->id, $second->id]);
    foreach (Invariants::all() as $sentence => $found) {
        str_contains($sentence, 'draft') ? expect([$sentence, $found['some']])->toBe([$sentence, []]) : null;
    }
});

it('takes an edit out and the next one relies on what it relied on', function (): void {
    $id = $this->w->subnet->id;
    $draft = ($this->edit)('change-prefix', ['prefixes' => [$id], 'name' => 'Tills'], $this->planner);
    $draft = ($this->edit)('change-prefix', ['prefixes' => [$id], 'description' => 'by the gates'], $this->planner);
    $version = $this->w->subnet->refresh()->version;
    expect($draft->edits[0]->expects)->toBe(["prefix:$id" => $version])->and($draft->edits[1]->expects)->toBe([]);
    ($this->at)($draft, 0, 'out')->assertSessionHas('done');
    expect($draft->refresh()->edits)->toHaveCount(1)->and($draft->edits[0]->expects)->toBe(["prefix:$id" => $version]);
    // What somebody writes after the first edit was seen still stands in the way of the second.
    $this->w->did(new ChangePrefix([$id], name: 'Kiosks'));
    ($this->commits)($draft, $this->planner)->assertSessionHas('bad');
    expect($this->w->subnet->refresh()->description)->toBe('');
});

it('puts edits in another order', function (): void {
    foreach (['till-1', 'till-2', 'till-3'] as $name) {
        $draft = ($this->host)($name);
    }
    ($this->at)($draft, 2, 'earlier');
    expect(($this->names)($draft))->toBe(['till-1', 'till-3', 'till-2']);
    ($this->at)($draft, 0, 'later');
    expect(($this->names)($draft))->toBe(['till-3', 'till-1', 'till-2']);
    ($this->at)($draft, 0, 'earlier');
    expect(($this->names)($draft))->toBe(['till-3', 'till-1', 'till-2']);
    ($this->commits)($draft)->assertRedirect('/ship');
    expect(($this->hosts)())->toBe(['till-1', 'till-2', 'till-3']);
});

it('says so when an edit is put before what it stands on', function (): void {
    $carve = ['space' => $this->w->space->id, 'prefix' => '192.0.2.128/26', 'name' => 'Gates'];
    $draft = ($this->edit)('carve-prefix', $carve, $this->planner);
    $made = $draft->edits[0]->input['id'];
    $draft = ($this->edit)('place-host', ['prefix' => $made, 'address' => '192.0.2.130'], $this->planner);
    ($this->at)($draft, 1, 'earlier');
    expect($draft->refresh()->edits[0]->action)->toBe('place-host');
    $this->get("/ship/drafts/$draft->id")->assertOk()->assertReads('does not hold')->assertReads('not reached');
    ($this->at)($draft, 1, 'earlier');
    ($this->commits)($draft, $this->planner)->assertRedirect('/ship');
    expect(Host::query()->where('prefix_id', $made)->count())->toBe(1);
});

it('amends an edit by the inputs of its act, and refuses what they do not take', function (): void {
    $draft = ($this->host)('till-1');
    $edit = $draft->edits[0]->id;
    $page = "/ship/drafts/$draft->id/edits/$edit";
    $this->get($page)->assertOk()->assertSee('till-1')->assertSee('Ticketing');
    $same = ['what' => 'amend', 'prefix' => $this->w->subnet->id, 'zone' => $this->w->zone->id, 'ptr' => '1'];
    $this->post($page, $same + ['name' => 'till-9', 'address' => '192.0.2.40'])->assertRedirect("/ship/drafts/$draft->id");
    expect($draft->refresh()->edits[0]->title)->toContain('till-9')->and($draft->edits[0]->id)->toBe($edit);
    $this->post($page, $same + ['name' => 'till-9', 'address' => '10.0.0.1'])->assertOk()->assertReads('10.0.0.1');
    $this->post($page, $same + ['name' => 'till 9'])->assertOk();
    $this->post($page, $same + ['name' => "a\x07b"])->assertOk()->assertReads('control character');
    $this->post($page, ['what' => 'fly'])->assertNotFound();
    expect($draft->refresh()->edits[0]->input['address'])->toBe('192.0.2.40');
    ($this->commits)($draft)->assertRedirect('/ship');
    expect((string) Host::query()->where('prefix_id', $this->w->subnet->id)->sole()->address)->toBe('192.0.2.40');
});

it('keeps an input that is empty on purpose, and leaves one that was left', function (): void {
    $act = ['prefixes' => [$this->w->subnet->id], 'description' => 'old words', 'then' => 'commit'];
    $this->actingAs($this->planner)->post('/act/change-prefix', $act);
    $draft = ($this->edit)('change-prefix', ['prefixes' => [$this->w->subnet->id], 'name' => 'Tills'], $this->planner);
    $page = "/ship/drafts/$draft->id/edits/{$draft->edits[0]->id}";
    $before = $draft->edits[0]->input;
    // What the page sends back untouched is what was there.
    $this->post($page, ['what' => 'amend', 'prefixes' => [$this->w->subnet->id], 'name' => 'Tills'])->assertRedirect();
    expect(array_filter($draft->refresh()->edits[0]->input, fn ($v): bool => $v !== null && $v !== [] && $v !== ''))
        ->toBe(array_filter($before, fn ($v): bool => $v !== null && $v !== [] && $v !== ''));
    ($this->commits)($draft, $this->planner)->assertRedirect('/ship');
    expect($this->w->subnet->refresh()->description)->toBe('old words')->and($this->w->subnet->name)->toBe('Tills');
});

it('shows what others wrote meanwhile three ways, and it is decided edit by edit', function (): void {
    $id = $this->w->subnet->id;
    $other = $this->w->carve('192.0.2.128/26', ['name' => 'Gates', 'stage' => 'live']);
    $draft = ($this->edit)('change-prefix', ['prefixes' => [$id, $other->id], 'description' => 'ours'], $this->planner);
    $this->w->acts()->commit($this->steward, []);
    $this->w->acts()->commit($this->w->person('ilk-'.bin2hex(random_bytes(3)), ['planner']),
        [new ChangePrefix([$id], description: 'theirs')]);
    $page = $this->get("/ship/drafts/$draft->id")->assertOk()->assertReads('1 needs a decision')->assertReads('theirs')
        ->assertReads('ours');
    $page->assertSee('Ours: write over theirs');
    $object = "prefix:$id";
    $now = $this->w->subnet->refresh()->version;
    // Of a version that was not shown, nothing is kept.
    ($this->at)($draft, 0, 'mine', ['object' => $object, 'version' => $now + 1])->assertSessionHas('bad');
    ($this->at)($draft, 0, 'theirs', ['object' => "prefix:$other->id"])->assertSessionHas('bad');
    ($this->at)($draft, 0, 'mine', ['object' => $object, 'version' => $now])->assertSessionHas('done');
    expect(app(DraftWork::class)->conflicts(Draft::query()->with(['edits', 'person'])->findOrFail($draft->id)))->toBe([]);
    ($this->commits)($draft, $this->planner)->assertRedirect('/ship');
    expect($this->w->subnet->refresh()->description)->toBe('ours')->and($other->refresh()->description)->toBe('ours');
});

it('leaves theirs as it is: the edit lets go of the object, and of itself when nothing is left', function (): void {
    $id = $this->w->subnet->id;
    $other = $this->w->carve('192.0.2.128/26', ['name' => 'Gates', 'stage' => 'live']);
    $draft = ($this->edit)('change-prefix', ['prefixes' => [$id, $other->id], 'description' => 'ours'], $this->planner);
    $this->w->did(new ChangePrefix([$id], description: 'theirs'));
    ($this->at)($draft, 0, 'theirs', ['object' => "prefix:$id"])->assertSessionHas('done');
    expect($draft->refresh()->edits[0]->input['prefixes'])->toBe([$other->id]);
    $this->w->did(new ChangePrefix([$other->id], description: 'theirs too'));
    ($this->at)($draft, 0, 'theirs', ['object' => "prefix:$other->id"])->assertSessionHas('done');
    expect($draft->refresh()->edits)->toHaveCount(0)->and($this->w->subnet->refresh()->description)->toBe('theirs');
    $this->get("/ship/drafts/$draft->id")->assertOk()->assertReads('The draft is empty');
});

it('tells of what is gone, and of what an edit did not touch when it was made', function (): void {
    $other = $this->w->carve('192.0.2.128/26', ['name' => 'Gates']);
    $draft = ($this->edit)('change-prefix', ['prefixes' => [$other->id], 'description' => 'ours'], $this->planner);
    $this->w->did(new App\Acts\Plan\RemovePrefix($other->id));
    $this->get("/ship/drafts/$draft->id")->assertOk()->assertReads('is gone')->assertDontSee('Ours:');
    ($this->at)($draft, 0, 'mine', ['object' => "prefix:$other->id", 'version' => 0])->assertSessionHas('bad');
    ($this->at)($draft, 0, 'theirs', ['object' => "prefix:$other->id"])->assertSessionHas('done');
    expect($draft->refresh()->edits)->toHaveCount(0);
});

it('decides in a submitted draft too, and what others said of it then does not count any more', function (): void {
    $id = $this->w->subnet->id;
    $draft = ($this->edit)('change-prefix', ['prefixes' => [$id], 'description' => 'ours'], $this->planner);
    $this->post("/ship/drafts/$draft->id/submit", ['title' => 'Words'])->assertSessionHas('done');
    $read = $draft->refresh()->load('edits')->digest();
    $this->actingAs($this->tobin)->post("/ship/drafts/$draft->id/decide", ['verdict' => 'agreed', 'digest' => $read])
        ->assertSessionHas('done');
    $this->w->did(new ChangePrefix([$id], description: 'theirs'));
    $this->actingAs($this->tobin)->get("/ship/drafts/$draft->id")->assertOk()->assertReads('theirs')->assertDontSee('Ours:');
    $this->actingAs($this->planner);
    ($this->at)($draft, 0, 'mine', ['object' => "prefix:$id", 'version' => $this->w->subnet->refresh()->version])->assertSessionHas('done');
    expect(DraftDecision::query()->where('draft_id', $draft->id)->whereNull('void_at')->count())->toBe(0)
        ->and($draft->refresh()->state)->toBe(DraftState::Submitted);
    // Nothing else of it is changed while it waits.
    ($this->at)($draft, 0, 'out')->assertSessionHas('bad');
    expect($draft->refresh()->edits)->toHaveCount(1);
});

it('is shared with a colleague, who works on it with rights of their own', function (): void {
    $draft = ($this->host)('till-1');
    $this->post('/act/share-draft', ['draft' => $draft->id, 'with' => $this->mate->sign_in, 'then' => 'commit'])->assertRedirect();
    $this->actingAs($this->mate)->post('/act/take-up-draft', ['draft' => $draft->id, 'then' => 'commit']);
    ($this->host)('till-2', $this->mate);
    expect(($this->names)($draft))->toBe(['till-1', 'till-2'])->and($draft->refresh()->edits[1]->person_id)->toBe($this->mate->id);
    $this->get("/ship/drafts/$draft->id")->assertOk()->assertReads('by '.$this->mate->name);
    ($this->at)($draft, 0, 'later');
    expect(($this->names)($draft))->toBe(['till-2', 'till-1']);
    // They do not submit, commit, drop or rename it, nor decide who else works on it.
    foreach (['submit' => ['title' => 'x'], 'commit' => [], 'reopen' => []] as $what => $with) {
        $this->post("/ship/drafts/$draft->id/$what", $with);
    }
    foreach (['drop-draft' => [], 'name-draft' => ['name' => 'Stolen'],
        'share-draft' => ['with' => $this->planner->sign_in]] as $act => $with) {
        $this->post("/act/$act", $with + ['draft' => $draft->id, 'then' => 'commit']);
    }
    expect($draft->refresh()->state)->toBe(DraftState::Open)->and($draft->title)->toBe('')->and(($this->hosts)())->toBe([])
        ->and(DraftHand::query()->where('draft_id', $draft->id)->count())->toBe(2);
    ($this->commits)($draft)->assertRedirect('/ship');
    expect(($this->hosts)())->toBe(['till-1', 'till-2']);
});

it('is left, or taken away from a colleague, and is not theirs any more', function (): void {
    $draft = ($this->host)('till-1');
    $this->post('/act/share-draft', ['draft' => $draft->id, 'with' => $this->mate->name, 'then' => 'commit']);
    $this->actingAs($this->mate)->post('/act/take-up-draft', ['draft' => $draft->id, 'then' => 'commit']);
    // Somebody else cannot put them out.
    $out = ['draft' => $draft->id, 'colleague' => $this->mate->id, 'then' => 'commit'];
    $this->actingAs($this->planner)->post('/act/unshare-draft', $out);
    expect(Drafts::open($this->mate)?->id)->toBe($draft->id);
    $this->actingAs($this->author)->post('/act/unshare-draft', ['colleague' => $this->author->id] + $out);
    $this->actingAs($this->author)->post('/act/unshare-draft', $out);
    expect(Drafts::open($this->mate))->toBeNull();
    $this->actingAs($this->mate)->get("/ship/drafts/$draft->id")->assertNotFound();
    $this->post("/ship/drafts/$draft->id/remark", ['text' => 'let me in'])->assertSessionHas('bad');
    expect(($this->host)('till-2', $this->mate)->id)->not->toBe($draft->id)->and(Drafts::open($this->author)?->id)->toBe($draft->id);
});

it('is shared with nobody of a tenant who sees less, not even by name', function (): void {
    $quill = $this->w->bound();
    $draft = ($this->host)('till-1');
    $this->post('/act/share-draft', ['draft' => $draft->id, 'with' => $quill->sign_in, 'then' => 'commit']);
    expect(DraftHand::query()->where('draft_id', $draft->id)->count())->toBe(1);
    // Bound to a tenant after it was shared: they read it no more, and their edits do not go there.
    $this->post('/act/share-draft', ['draft' => $draft->id, 'with' => $this->mate->sign_in, 'then' => 'commit']);
    $this->actingAs($this->mate)->post('/act/take-up-draft', ['draft' => $draft->id, 'then' => 'commit']);
    DB::table('people')->where('id', $this->mate->id)->update(['tenant_id' => $quill->tenant_id, 'roles' => '["tenant-admin"]']);
    expect(Drafts::open($this->mate->refresh()))->toBeNull();
    $this->actingAs($this->mate)->get("/ship/drafts/$draft->id")->assertNotFound();
    $this->get('/ship/drafts')->assertOk()->assertDontSee('till-1');
    ($this->at)($draft, 0, 'out')->assertNotFound();
});

it('is agreed to by nobody who wrote a part of it', function (): void {
    $helper = $this->w->person('helper-'.bin2hex(random_bytes(3)), ['operator', 'approver']);
    $draft = ($this->host)('till-1');
    $this->post('/act/share-draft', ['draft' => $draft->id, 'with' => $helper->sign_in, 'then' => 'commit']);
    $this->actingAs($helper)->post('/act/take-up-draft', ['draft' => $draft->id, 'then' => 'commit']);
    ($this->host)('till-2', $helper);
    $this->actingAs($this->author)->post("/ship/drafts/$draft->id/submit", ['title' => 'Two tills'])->assertSessionHas('done');
    $digest = $draft->refresh()->load('edits')->digest();
    $this->actingAs($helper)->post("/ship/drafts/$draft->id/decide", ['verdict' => 'agreed', 'digest' => $digest])->assertSessionHas('bad');
    expect(App\Queries\Waiting::drafts($helper)->count())->toBe(0)->and(App\Queries\Waiting::drafts($this->tobin)->count())
        ->toBeGreaterThan(0);
});

it('is agreed to by nobody who amended an edit of it', function (): void {
    $helper = $this->w->person('helper-'.bin2hex(random_bytes(3)), ['operator', 'approver']);
    $draft = ($this->host)('till-1');
    $this->post('/act/share-draft', ['draft' => $draft->id, 'with' => $helper->sign_in, 'then' => 'commit']);
    $this->actingAs($helper)->post("/ship/drafts/$draft->id/edits/{$draft->edits[0]->id}", [
        'what' => 'amend', 'prefix' => $this->w->subnet->id, 'name' => 'till-9', 'zone' => $this->w->zone->id, 'ptr' => '1',
    ])->assertRedirect();
    $this->actingAs($this->author)->post("/ship/drafts/$draft->id/submit", ['title' => 'A till'])->assertSessionHas('done');
    $digest = $draft->refresh()->load('edits')->digest();
    $this->actingAs($helper)->post("/ship/drafts/$draft->id/decide", ['verdict' => 'agreed', 'digest' => $digest])->assertSessionHas('bad');
});

it('is not committed with an edit that somebody added after it was read', function (): void {
    $draft = ($this->host)('till-1');
    $read = $draft->load('edits')->digest();
    ($this->host)('till-2');
    $outcome = $this->w->acts()->commit($this->author, [...Drafts::acts($draft), new EndDraft($draft->id, $read)], Drafts::expects($draft));
    expect($outcome->block()?->code)->toBe('changed-meanwhile')->and(($this->hosts)())->toBe([]);
});

it('marks what drafts touch for those who may know of them', function (): void {
    $draft = ($this->edit)('change-prefix', ['prefixes' => [$this->w->subnet->id], 'description' => 'ours'], $this->planner);
    $object = "prefix:{$this->w->subnet->id}";
    expect(Drafts::touched($this->planner)[$object] ?? '')->toStartWith('in your draft')
        ->and(Drafts::touched($this->tobin))->not->toHaveKey($object);
    $this->post("/ship/drafts/$draft->id/submit", ['title' => 'Words']);
    expect(Drafts::touched($this->tobin)[$object] ?? '')->toContain($this->planner->name)
        ->and(Drafts::touched($this->mate))->not->toHaveKey($object)
        ->and(Drafts::touched($this->w->bound()))->toBe([]);
});

it('launders no right through the author of a shared draft', function (): void {
    $reader = $this->w->people['reader'];
    $this->w->did(App\Acts\Name\GrantName::fromInput([
        'person' => $reader->id, 'zone' => $this->w->zone->id, 'name' => 'boards', 'below' => '1',
    ]));
    $draft = ($this->host)('till-1');
    $this->post('/act/share-draft', ['draft' => $draft->id, 'with' => $reader->sign_in, 'then' => 'commit']);
    $this->actingAs($reader)->post('/act/take-up-draft', ['draft' => $draft->id, 'then' => 'commit']);
    $record = ['zone' => $this->w->zone->id, 'type' => 'TXT', 'data' => '"x"'];
    ($this->edit)('add-record', $record + ['name' => 'a.boards'], $reader);
    expect($draft->refresh()->edits)->toHaveCount(2);
    $page = "/ship/drafts/$draft->id/edits/{$draft->edits[1]->id}";
    $this->post($page, ['what' => 'amend', 'name' => 'b.boards'] + $record)->assertRedirect("/ship/drafts/$draft->id");
    $this->post($page, ['what' => 'amend', 'name' => 'tills'] + $record)->assertOk();
    expect($draft->refresh()->edits[1]->input['name'])->toBe('b.boards');
    // An edit of the author that is not theirs to make is not theirs to change.
    $first = "/ship/drafts/$draft->id/edits/{$draft->edits[0]->id}";
    $this->post($first, ['what' => 'amend', 'prefix' => $this->w->subnet->id, 'name' => 'theirs'])->assertOk()
        ->assertReads('Not available to you');
    expect($draft->refresh()->edits[0]->input['name'])->toBe('till-1');
});

it('gathers edits by site, zone or server, and moves them in their order alone', function (): void {
    $w = $this->w;
    $site = App\Acts\Directory\MakeSite::fromInput(['name' => 'Pier '.bin2hex(random_bytes(3))]);
    $w->did($site);
    $w->did(ChangePrefix::fromInput(['prefixes' => [$w->subnet->id], 'site' => $site->id]));
    $draft = ($this->host)('till-1');
    ($this->edit)('add-record', ['zone' => $w->zone->id, 'name' => 'www', 'type' => 'A', 'data' => '192.0.2.9']);
    ($this->edit)('change-scope', ['scope' => $w->scope->id, 'leaseTime' => '5h']);
    $page = "/ship/drafts/$draft->id";
    $order = function (string $by) use ($page): array {
        preg_match_all('/<h3 class="pad">(.*?) <span|<span class="num">(\d+)<\/span>/s', (string) $this->get("$page?by=$by")
            ->assertOk()->getContent(),
            $found, PREG_SET_ORDER);

        return array_map(static fn (array $m): string => trim($m[1] !== '' ? $m[1] : $m[2]), $found);
    };
    $name = App\Models\Site::query()->findOrFail($site->id)->name;
    expect($order('site'))->toBe([$name, '1', '3', 'at no site', '2'])
        ->and($order('zone'))->toBe(['2.0.192.in-addr.arpa', '1', $w->zone->title(), '1', '2', 'at no zone', '3'])
        ->and($order('moon'))->toBe(['1', '2', '3'])->and($order(''))->toBe(['1', '2', '3']);
    $this->get($page)->assertSee('Move edit 2 earlier');
    $this->get("$page?by=zone")->assertDontSee('Move edit 2 earlier')->assertReads('Edits, by zone');
});

it('says of each edit to which servers it goes, also of an option that only reaches their scopes', function (): void {
    $w = $this->w;
    $set = fn (array $at): Draft => ($this->edit)('set-option', $at + ['code' => '42', 'value' => '192.0.2.9']);
    $set(['scope' => $w->scope->id]);
    $set(['layer' => 'server', 'of' => $w->servers['dh1'], 'code' => '2', 'value' => '3600']);
    $set(['layer' => 'organisation', 'code' => '4', 'value' => '192.0.2.9']);
    ($this->edit)('add-record', ['zone' => $w->zone->id, 'name' => 'late', 'type' => 'A', 'data' => '192.0.2.9']);
    // The scope keeps a nearer value.
    $set(['layer' => 'organisation']);
    $draft = ($this->edit)('set-option', ['code' => '19', 'value' => '', 'scope' => $w->scope->id]);
    $sheet = function (Person $by) use ($draft): DraftSheet {
        $draft->refresh()->load('edits.person');
        $outcome = $this->w->acts()->rehearse($by, Drafts::acts($draft), Drafts::expects($draft));

        return new DraftSheet($draft, $outcome, new Called(...DraftSheet::toCall($outcome, [])), [],
            $by->isBound() ? null : Destinations::of($outcome));
    };
    $goes = array_map(
        static fn (array $row): array => array_map(static fn (string $s): string => explode('-', $s)[0], $row['at']['server']),
        $sheet($this->author)->rows,
    );
    expect($goes)->toBe([['dh1', 'dh2'], ['dh1'], ['dh1', 'dh2'], ['ns1', 'ns2'], [], []])
        ->and(array_keys($sheet($this->author)->gathered('server')))->toHaveCount(5);
    $this->get("/ship/drafts/$draft->id?by=server")->assertOk()->assertReads('at no server 2')->assertReads($w->scope->refresh()->name);
    // Who is bound to a tenant is told of no server.
    expect($sheet($w->bound())->ways())->not->toHaveKey('server');
});
