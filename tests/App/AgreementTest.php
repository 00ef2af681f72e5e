<?php

declare(strict_types=1);

use App\Acts\Directory\ChangePerson;
use App\Acts\Directory\ChangeServer;
use App\Acts\Directory\MakeHook;
use App\Acts\Directory\MakeRule;
use App\Acts\Directory\MakeSite;
use App\Acts\Directory\RemoveRule;
use App\Acts\Drafts\DecideDraft;
use App\Acts\Engine\Agreement;
use App\Acts\Imports\StartImport;
use App\Acts\Lease\AddReservation;
use App\Acts\Lease\SetOption;
use App\Acts\Name\AddRecord;
use App\Acts\Name\RemoveZone;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\PlaceHost;
use App\Acts\Plan\PlaceMany;
use App\Acts\Registry;
use App\Imports\ImportFile;
use App\Jobs\ReadImport;
use App\Models\ApprovalRule;
use App\Models\Draft;
use App\Models\DraftDecision;
use App\Models\DraftState;
use App\Models\Host;
use App\Models\Import;
use App\Models\ImportState;
use App\Models\Record;
use App\Models\Reservation;
use App\Models\Zone;
use App\Queries\RuleTrial;
use Illuminate\Support\Facades\DB;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    ['operator' => $this->author, 'approver' => $this->tobin, 'planner' => $this->planner, 'steward' => $this->steward] = $this->w->people;
    $this->second = $this->w->person('second-'.bin2hex(random_bytes(3)), ['approver']);
    $this->rule = fn (array $input): ApprovalRule => ApprovalRule::query()->findOrFail(
        tap(MakeRule::fromInput($input), fn ($a) => $this->w->did($a))->id,
    );
    $this->place = fn (string $name = 'till-1'): array => [
        'prefix' => $this->w->subnet->id, 'name' => $name, 'zone' => $this->w->zone->id, 'ptr' => '1',
    ];
    /** An edit in the author's draft, by the pages. */
    $this->draft = function (string $name = 'till-1'): Draft {
        $this->actingAs($this->author);
        $this->post('/act/place-host', ($this->place)($name) + ['then' => 'draft'])->assertRedirect();

        return Draft::query()->where('person_id', $this->author->id)->where('state', DraftState::Open)->sole();
    };
    $this->submit = function (Draft $draft): Draft {
        $this->actingAs($this->author)->post("/ship/drafts/$draft->id/submit", ['title' => 'Place a till', 'why' => 'the new kiosk'])
            ->assertRedirect("/ship/drafts/$draft->id");

        return $draft->refresh()->load('edits');
    };
    $this->decide = fn ($who, Draft $draft, string $verdict = 'agreed', string $reason = 'read it') => $this->actingAs($who)
        ->post("/ship/drafts/$draft->id/decide", ['verdict' => $verdict, 'reason' => $reason, 'digest' => $draft->load('edits')->digest()]);
    $this->commit = fn (Draft $draft, array $more = []) => $this->actingAs($this->author)->post("/ship/drafts/$draft->id/commit", $more + [
        'shown' => $this->w->acts()->rehearse(
            $this->author,
            [...App\Acts\Drafts\Drafts::acts($draft), new App\Acts\Drafts\EndDraft($draft->id)],
            App\Acts\Drafts\Drafts::expects($draft),
        )->digest(),
        'reason' => 'as agreed',
    ]);
    $this->placed = fn (): int => Host::query()->where('prefix_id', $this->w->subnet->id)->count();
});

it('commits without others while no rule asks for them', function (): void {
    $draft = ($this->submit)(($this->draft)());
    expect($draft->state)->toBe(DraftState::Submitted);
    ($this->commit)($draft)->assertRedirect('/ship');
    expect(($this->placed)())->toBe(1)->and($draft->refresh()->state)->toBe(DraftState::Committed);
});

it('asks for agreement by whichever door a change comes', function (): void {
    ($this->rule)(['kind' => 'touches', 'noun' => 'address', 'needs' => '1']);
    $w = $this->w;
    $outcome = $w->acts()->rehearse($this->author, [PlaceHost::fromInput(($this->place)())]);
    expect($outcome->blocked())->toBeFalse()->and($outcome->needs)->toHaveCount(1);
    $outcome = $w->acts()->commit($this->author, [PlaceHost::fromInput(($this->place)())], reason: 'why not');
    expect($outcome->blocked())->toBeTrue()->and($outcome->trouble)->toContain('one approver')->and(($this->placed)())->toBe(0);
    $this->actingAs($this->author);
    $this->post('/act/place-host', ($this->place)() + ['then' => 'commit', 'reason' => 'why not']);
    expect(($this->placed)())->toBe(0);
    // What the rule does not speak of goes on.
    expect($w->acts()->commit($this->author, [new AddRecord($w->zone->id, 'TXT', 'x', '', 'a')], reason: 'r')->blocked())->toBeFalse();
    // What a submitted draft has not agreed to is not committed either, nor an open one.
    $draft = ($this->draft)();
    $this->actingAs($this->author)->post("/ship/drafts/$draft->id/commit", ['reason' => 'r']);
    expect(($this->placed)())->toBe(0);
    $draft = ($this->submit)($draft);
    ($this->commit)($draft)->assertSessionHas('bad');
    expect(($this->placed)())->toBe(0);
    ($this->decide)($this->tobin, $draft)->assertSessionHas('done');
    ($this->commit)($draft)->assertRedirect('/ship');
    expect(($this->placed)())->toBe(1);
});

it('counts approvers, not agreements, and never the author', function (): void {
    ($this->rule)(['kind' => 'always', 'needs' => '2']);
    $this->w->did(ChangePerson::fromInput(['person' => $this->author->id, 'roles' => ['operator', 'approver']]));
    $draft = ($this->submit)(($this->draft)());
    ($this->decide)($this->author->refresh(), $draft)->assertSessionHas('bad');
    ($this->decide)($this->tobin, $draft);
    ($this->decide)($this->tobin, $draft);
    expect(Agreement::agreed($draft->fresh(['edits', 'decisions.person'])))->toHaveCount(1);
    ($this->commit)($draft)->assertSessionHas('bad');
    ($this->decide)($this->second, $draft);
    ($this->commit)($draft)->assertRedirect('/ship');
});

it('takes no agreement of who is no approver any more', function (): void {
    ($this->rule)(['kind' => 'always', 'needs' => '1']);
    $draft = ($this->submit)(($this->draft)());
    ($this->decide)($this->tobin, $draft);
    $this->w->did(ChangePerson::fromInput(['person' => $this->tobin->id, 'roles' => ['reader']]));
    ($this->commit)($draft)->assertSessionHas('bad');
    $this->w->did(ChangePerson::fromInput(['person' => $this->tobin->id, 'roles' => ['approver']]));
    $this->w->did(ChangePerson::fromInput(['person' => $this->tobin->id, 'active' => '0']));
    ($this->commit)($draft)->assertSessionHas('bad');
    expect(($this->placed)())->toBe(0);
});

it('voids what was said when the draft is taken back', function (): void {
    ($this->rule)(['kind' => 'always', 'needs' => '1']);
    $draft = ($this->submit)(($this->draft)());
    ($this->decide)($this->tobin, $draft);
    $this->actingAs($this->author)->post("/ship/drafts/$draft->id/reopen")->assertRedirect("/ship/drafts/$draft->id");
    expect(DraftDecision::query()->where('draft_id', $draft->id)->whereNull('void_at')->count())->toBe(0);
    $draft = ($this->submit)($draft->refresh());
    ($this->commit)($draft)->assertSessionHas('bad');
    expect(($this->placed)())->toBe(0);
});

it('refuses with a reason, and a refused draft is not committed whoever else agrees', function (): void {
    ($this->rule)(['kind' => 'always', 'needs' => '1']);
    $draft = ($this->submit)(($this->draft)());
    ($this->decide)($this->tobin, $draft, 'refused', '')->assertSessionHas('bad');
    ($this->decide)($this->tobin, $draft, 'refused', 'not in season')->assertSessionHas('done');
    ($this->decide)($this->second, $draft);
    ($this->commit)($draft)->assertSessionHas('bad');
    expect(($this->placed)())->toBe(0);
    $this->actingAs($this->author)->get("/ship/drafts/$draft->id")->assertOk()->assertReads('not in season');
    // Who refused may agree after all.
    ($this->decide)($this->tobin, $draft);
    ($this->commit)($draft)->assertRedirect('/ship');
});

it('agrees only to what was read', function (): void {
    $draft = ($this->submit)(($this->draft)());
    $old = $draft->digest();
    $this->actingAs($this->author)->post("/ship/drafts/$draft->id/reopen");
    ($this->draft)('till-2');
    ($this->submit)($draft->refresh());
    $outcome = $this->w->acts()->commit($this->tobin, [new DecideDraft($draft->id, true, '', $old)]);
    expect($outcome->block()->code)->toBe('changed-meanwhile');
});

it('lets a submitted draft be changed by nobody', function (): void {
    $draft = ($this->submit)(($this->draft)());
    $edit = $draft->edits[0]->id;
    $this->actingAs($this->author)->post("/ship/drafts/$draft->id/edits/$edit", ['what' => 'out'])->assertSessionHas('bad');
    $this->post("/ship/drafts/$draft->id/edits/$edit", ['what' => 'amend'])->assertNotFound();
    expect($draft->edits()->count())->toBe(1);
    // The next edit opens a draft of its own.
    $next = ($this->draft)('till-2');
    expect($next->id)->not->toBe($draft->id);
    $this->actingAs($this->planner)->post("/ship/drafts/$draft->id/reopen")->assertSessionHas('bad');
    expect($draft->refresh()->state)->toBe(DraftState::Submitted);
});

it('shows a draft to those who decide and to its author, and to nobody else', function (): void {
    $draft = ($this->submit)(($this->draft)());
    foreach ([
        [$this->author, 200],
        [$this->tobin, 200],
        [$this->steward, 200],
        [$this->planner, 404],
        [$this->w->bound(), 404],
    ] as [$who, $status]) {
        $this->actingAs($who)->get("/ship/drafts/$draft->id")->assertStatus($status);
    }
    $this->actingAs($this->planner)->post("/ship/drafts/$draft->id/decide", ['verdict' => 'agreed', 'digest' => $draft->digest()])
        ->assertForbidden();
    $this->actingAs($this->planner)->post("/ship/drafts/$draft->id/remark", ['text' => 'mine?'])->assertSessionHas('bad');
    $this->actingAs($this->planner)->post("/ship/drafts/$draft->id/commit");
    expect(($this->placed)())->toBe(0);
    $this->actingAs($this->tobin)->get('/ship/drafts')->assertOk()->assertReads('Place a till')->assertReads('1 draft waits for you');
    $this->actingAs($this->planner)->get('/ship/drafts')->assertOk()->assertDontSee('Place a till');
});

it('keeps what is said, of the draft and of an edit', function (): void {
    $draft = ($this->submit)(($this->draft)());
    $this->actingAs($this->tobin)->post("/ship/drafts/$draft->id/remark", ['text' => 'why <b>here</b>?', 'edit' => $draft->edits[0]->id]);
    $this->actingAs($this->author)->post("/ship/drafts/$draft->id/remark", ['text' => 'because']);
    $this->post("/ship/drafts/$draft->id/remark", ['text' => ' '])->assertSessionHas('bad');
    $this->get("/ship/drafts/$draft->id")->assertSee('why &lt;b&gt;here&lt;/b&gt;?', false)->assertSee('because');
});

it('commits in an emergency only by a steward, with the reason, and tells approvers', function (): void {
    ($this->rule)(['kind' => 'always', 'needs' => '1']);
    $draft = ($this->submit)(($this->draft)());
    ($this->commit)($draft, ['emergency' => '1', 'password' => 'a-long-password', 'reason' => 'the quay is on fire']);
    expect(($this->placed)())->toBe(0);
    $this->w->did(ChangePerson::fromInput(['person' => $this->author->id, 'roles' => ['operator', 'steward']]));
    $this->author->refresh();
    ($this->commit)($draft, ['emergency' => '1', 'password' => 'a-long-password', 'reason' => 'short'])->assertSessionHas('bad');
    expect(($this->placed)())->toBe(0);
    ($this->commit)($draft, ['emergency' => '1', 'reason' => 'the quay is on fire'])->assertSessionHas('bad');
    ($this->commit)($draft, ['emergency' => '1', 'password' => 'wrong', 'reason' => 'the quay is on fire'])->assertSessionHas('bad');
    expect(($this->placed)())->toBe(0);
    ($this->commit)($draft, ['emergency' => '1', 'password' => 'a-long-password', 'reason' => 'the quay is on fire'])
        ->assertRedirect('/ship');
    expect(($this->placed)())->toBe(1);
    $this->actingAs($this->tobin)->get('/ship/drafts')->assertReads('in an emergency');
    $this->get("/ship/drafts/$draft->id")->assertReads('the quay is on fire');
});

it('finds a change at a site, by what stands there and below', function (): void {
    $outer = MakeSite::fromInput(['name' => 'Outer '.bin2hex(random_bytes(3))]);
    $inner = MakeSite::fromInput(['name' => 'Inner '.bin2hex(random_bytes(3)), 'parent' => $outer->id]);
    $other = MakeSite::fromInput(['name' => 'Other '.bin2hex(random_bytes(3))]);
    foreach ([$outer, $inner, $other] as $act) {
        $this->w->did($act);
    }
    $this->w->did(new ChangePrefix([$this->w->top->id], site: $inner->id));
    ($this->rule)(['kind' => 'site', 'site' => $outer->id]);
    $needs = fn ($act, $who): int => count($this->w->acts()->rehearse($who, [$act])->needs);
    // The subnet has no site of its own: it stands where the prefix around it does.
    expect($needs(PlaceHost::fromInput(($this->place)()), $this->author))->toBe(1)
        ->and($needs(SetOption::fromInput(['scope' => $this->w->scope->id, 'code' => 42, 'value' => '192.0.2.9']), $this->author))->toBe(1)
        ->and($needs(new ChangePrefix([$this->w->subnet->id], name: 'x'), $this->planner))->toBe(1)
        ->and($needs(new AddRecord($this->w->zone->id, 'TXT', 'x', '', 'a'), $this->author))->toBe(0);
    // An option is where the object of its layer is: the site itself, a server or a reservation there.
    $option = fn (string $layer, string $of): SetOption => SetOption::fromInput(
        ['layer' => $layer, 'of' => $of, 'code' => 42, 'value' => '192.0.2.9'],
    );
    $this->w->did(new AddReservation($this->w->scope->id, '192.0.2.70', '00:00:5e:00:53:70', 'till-7'));
    $reservation = Reservation::query()->where('scope_id', $this->w->scope->id)->sole();
    $this->w->did(ChangeServer::fromInput(['server' => $this->w->servers['dh1'], 'site' => $inner->id]));
    expect($needs($option('site', $inner->id), $this->author))->toBe(1)
        ->and($needs($option('site', $other->id), $this->author))->toBe(0)
        ->and($needs($option('server', $this->w->servers['dh1']), $this->author))->toBe(1)
        ->and($needs($option('server', $this->w->servers['dh2']), $this->author))->toBe(0)
        ->and($needs($option('reservation', $reservation->id), $this->author))->toBe(1);
    $this->w->did(new ChangePrefix([$this->w->subnet->id], site: $other->id));
    expect($needs(PlaceHost::fromInput(($this->place)()), $this->author))->toBe(0);
});

it('finds removals, many rows and warnings', function (): void {
    $needs = fn ($act, $who): int => count($this->w->acts()->rehearse($who, [$act])->needs);
    ($this->rule)(['kind' => 'removes', 'noun' => 'zone', 'needs' => '2']);
    expect($needs(new RemoveZone($this->w->reverse->id), $this->planner))->toBe(1)
        ->and(Zone::query()->find($this->w->reverse->id))->not->toBeNull();
    ($this->rule)(['kind' => 'rows', 'rows' => '2']);
    expect($needs(PlaceHost::fromInput(($this->place)()), $this->author))->toBe(1)
        ->and($needs(new AddRecord($this->w->zone->id, 'TXT', 'x', '', 'a'), $this->author))->toBe(0);
    $warning = ($this->rule)(['kind' => 'warning']);
    $router = SetOption::fromInput(['scope' => $this->w->scope->id, 'code' => 3, 'value' => '198.51.100.1']);
    expect($needs($router, $this->author))->toBe(1);
    $this->w->did(new RemoveRule($warning->id));
    expect($needs($router, $this->author))->toBe(0);
});

it('asks nothing of what servers tell, of shipping and of people\'s own settings', function (): void {
    ($this->rule)(['kind' => 'always']);
    $this->actingAs($this->author)->post('/act/set-theme', ['theme' => 'night', 'then' => 'commit']);
    expect($this->author->refresh()->theme)->toBe('night');
    $made = $this->w->acts()->commit($this->author, [new App\Acts\Lease\KeepLeases($this->w->servers['dh1'], [])]);
    expect($made->committed)->toBeTrue();
});

it('tells how many changes of late a rule would have stopped', function (): void {
    $this->w->acts()->commit($this->author, [new AddRecord($this->w->zone->id, 'TXT', 'x', '', 'a')], reason: 'r');
    $record = Record::query()->where('owner', 'like', 'a.%')->where('type', HarborPost\Core\Dns\RecordType::TXT)->sole();
    $this->w->acts()->commit($this->author, [new App\Acts\Name\RemoveRecords([$record->id])], reason: 'r');
    $trial = fn (array $input): ?array => RuleTrial::of(($this->rule)($input)->rule(), Registry::ungoverned());
    $base = $trial(['kind' => 'rows', 'rows' => '1000']);
    expect($base['stopped'])->toBe(0)->and($base['of'])->toBeGreaterThanOrEqual(2)
        ->and($trial(['kind' => 'removes', 'noun' => 'record'])['stopped'])->toBe(1)
        ->and($trial(['kind' => 'touches', 'noun' => 'record'])['stopped'])->toBeGreaterThanOrEqual(2)
        ->and(
            $trial(
                [
                    'kind' => 'site',
                    'site' => tap(MakeSite::fromInput(['name' => 'S '.bin2hex(random_bytes(3))]), fn ($a) => $this->w->did($a))->id,
                ],
            ),
        )
        ->toBeNull();
    // What rules do not ask about does not count, and neither does what history cannot tell.
    $before = $trial(['kind' => 'always'])['of'];
    $this->actingAs($this->steward)->post('/act/make-hook', ['name' => 'h', 'address' => 'https://desk.example/x', 'then' => 'commit']);
    expect($trial(['kind' => 'always'])['of'])->toBe($before)->and($trial(['kind' => 'warning']))->toBeNull();
    $this->post('/act/make-rule', ['kind' => 'removes', 'noun' => 'record', 'then' => 'preview'])
        ->assertReads("Of $before changes of the last 30 days it would have stopped 1");
    $this->actingAs($this->steward)->get('/ship/rules')->assertOk()
        ->assertReads('A change that removes a record needs the agreement of one approver');
});

it('refuses rules that say nothing', function (array $input): void {
    expect($this->w->refusal(MakeRule::class, $input))->toBe('bad-rule');
})->with([
    'no kind of object' => [['kind' => 'removes', 'noun' => 'lighthouse']], 'no object' => [['kind' => 'touches']],
    'no site' => [['kind' => 'site']],
]);

it('refuses to submit what is empty, nameless or does not hold', function (): void {
    $draft = ($this->draft)();
    $this->actingAs($this->author)->post("/ship/drafts/$draft->id/submit", ['title' => ' '])->assertSessionHas('bad');
    expect($draft->refresh()->state)->toBe(DraftState::Open);
    $this->w->did(PlaceHost::fromInput(['name' => 'till-1', 'address' => '192.0.2.2'] + ($this->place)()));
    $this->post("/ship/drafts/$draft->id/submit", ['title' => 'x']);
    expect($draft->refresh()->state)->toBeIn([DraftState::Open, DraftState::Submitted]);
});

it('asks for agreement of a file that is taken over, and a draft carries it', function (): void {
    $this->author = $this->planner;
    ($this->rule)(['kind' => 'touches', 'noun' => 'address', 'needs' => '1']);
    $path = (string) tempnam(sys_get_temp_dir(), 'import');
    file_put_contents($path, "address,name\n192.0.2.20,gate-1\n192.0.2.21,gate-2\n");
    $start = StartImport::fromInput(['kind' => 'plan', 'target' => $this->w->space->id, 'fileName' => 'gates.csv', 'path' => $path]);
    ImportFile::keep($start->id, $path);
    $this->w->did($start);
    (new ReadImport($start->id))->handle($this->w->acts());
    $import = Import::query()->findOrFail($start->id);
    expect($import->state)->toBe(ImportState::Judged)->and($import->toWrite())->toBe(2);

    // The worker is stopped by the rule; nothing is written, and the file stands there as before, with the reason.
    $this->actingAs($this->author)->post("/import/$import->id/take-over")->assertRedirect();
    expect($import->refresh()->state)->toBe(ImportState::Judged)->and($import->message)->toContain('needs the agreement of one approver')
        ->and(($this->placed)())->toBe(0);
    $this->get("/import/$import->id")->assertSee('It was not taken over; nothing was written')->assertSee('put it in a draft');

    $this->post('/act/take-over', ['import' => $import->id, 'then' => 'commit']);
    expect(($this->placed)())->toBe(0);
    $this->post('/act/take-over', ['import' => $import->id, 'then' => 'draft'])->assertRedirect();
    $draft = ($this->submit)(Draft::query()->where('person_id', $this->author->id)->where('state', DraftState::Open)->sole());
    $this->actingAs($this->tobin)->get("/ship/drafts/$draft->id")->assertOk()->assertSee('gates.csv')->assertSee('gate-1');
    ($this->decide)($this->tobin, $draft);
    ($this->commit)($draft->refresh()->load('edits'));
    expect(($this->placed)())->toBe(2)->and($import->refresh()->state)->toBe(ImportState::Taken)->and($import->message)->toBe('');
});

it('counts what is written in bulk by its kind and its place, and hooks hear of it', function (): void {
    $site = MakeSite::fromInput(['name' => 'Bulk '.bin2hex(random_bytes(3))]);
    $this->w->did($site);
    $subnet = $this->w->carve('198.18.0.0/21', ['name' => 'Turnstiles', 'site' => $site->id]);
    $rows = array_map(
        fn (int $i): array => ['prefix' => $subnet->id, 'address' => long2ip((int) ip2long('198.18.0.0') + $i), 'name' => "gate-$i"],
        range(1, 700),
    );
    $place = new PlaceMany($rows);
    $needs = fn (): array => array_map(
        fn ($r): string => $r->sentence(),
        $this->w->acts()->rehearse($this->author, [$place])->needs,
    );
    expect($needs())->toBe([]);
    $elsewhere = MakeSite::fromInput(['name' => 'Elsewhere '.bin2hex(random_bytes(3))]);
    $this->w->did($elsewhere);
    ($this->rule)(['kind' => 'site', 'site' => $elsewhere->id, 'needs' => '1']);
    expect($needs())->toBe([]);
    ($this->rule)(['kind' => 'site', 'site' => $site->id, 'needs' => '1']);
    expect($needs())->toHaveCount(1);
    ($this->rule)(['kind' => 'touches', 'noun' => 'address', 'needs' => '2']);
    expect($needs())->toHaveCount(2)
        ->and($this->w->acts()->commit($this->author, [$place])->committed)->toBeFalse()
        ->and(Host::query()->where('prefix_id', $subnet->id)->count())->toBe(0);

    // Who agrees reads how many rows there are, also of those that are counted and not listed.
    $told = $this->w->acts()->rehearse($this->author, [$place]);
    expect($told->rows())->toBe(700)->and($told->bulk())->toBe(200)->and($told->ledgers[0]->rows())->toBe(700);

    DB::table('approval_rules')->delete();
    $this->w->did(MakeHook::fromInput(['name' => 'desk', 'address' => 'https://desk.example/in', 'kinds' => ['address'], 'inner' => '1']));
    $outcome = $this->w->acts()->commit($this->author, [$place], reason: 'the gates are delivered');
    expect($outcome->committed)->toBeTrue()
        ->and(DB::table('outbox')->where('act_id', $outcome->ledgers[0]->actId)->value('kinds'))->toContain('|address|');
});

it('counts the records of a zone that goes, and history keeps each of them', function (): void {
    foreach (range(1, 3) as $i) {
        $this->w->did(AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => "kept-$i", 'type' => 'TXT', 'data' => "\"$i\""]));
    }
    $records = Record::query()->where('zone_id', $this->w->zone->id)->pluck('id')->all();
    $remove = RemoveZone::fromInput(['zone' => $this->w->zone->id]);
    ($this->rule)(['kind' => 'rows', 'rows' => (string) count($records), 'needs' => '1']);
    expect($this->w->acts()->rehearse($this->planner, [$remove])->needs)->toHaveCount(1);
    DB::table('approval_rules')->delete();
    expect($this->w->acts()->commit($this->planner, [$remove], reason: 'closed')->committed)->toBeTrue();
    $told = DB::table('history')->where('action', 'remove-zone')->where('object_type', 'record')->whereIn('object_id', $records)->get();
    expect($told)->toHaveCount(count($records))
        ->and($told->pluck('title')->implode(' '))->toContain('kept-2');
});

it('asks some of a team, as it is when the draft is committed', function (): void {
    $keep = fn (string $name, array $people, string $id = '') => App\Acts\Directory\KeepTeam::fromInput(
        ['name' => $name.bin2hex(random_bytes(3)), 'people' => array_map(fn ($p) => $p->id, $people)] + ($id === '' ? [] : ['id' => $id]),
    );
    $team = $keep('Pier ', [$this->second]);
    $this->w->did($team);
    $rule = ($this->rule)(['kind' => 'always', 'needs' => '1', 'team' => $team->id]);
    expect($rule->rule()->sentence())->toContain('one of Pier');
    $draft = ($this->submit)(($this->draft)());
    ($this->decide)($this->tobin, $draft)->assertSessionHas('done');
    ($this->commit)($draft)->assertSessionHas('bad');
    $this->actingAs($this->tobin)->get("/ship/drafts/$draft->id")->assertReads('0 of 1 agreed');
    ($this->decide)($this->second, $draft);
    // Put out of the team, what they said counts no more; put in again it does.
    $this->w->did($keep('Pier ', [$this->tobin], $team->id));
    $this->w->did($keep('Pier ', [], $team->id));
    ($this->commit)($draft)->assertSessionHas('bad');
    expect(($this->placed)())->toBe(0);
    expect($this->w->refusal(App\Acts\Directory\RemoveTeam::class, ['team' => $team->id]))->toBe('team-agrees');
    $this->w->did($keep('Pier ', [$this->second], $team->id));
    ($this->commit)($draft)->assertRedirect('/ship');
    expect(($this->placed)())->toBe(1);
    $this->w->did(new RemoveRule($rule->id));
    $this->w->did(new App\Acts\Directory\RemoveTeam($team->id));
    expect(App\Models\TeamMember::query()->where('team_id', $team->id)->exists())->toBeFalse();
});

it('asks each rule by itself: agreement of one team is none of another', function (): void {
    foreach (['Quay' => $this->tobin, 'Pier' => $this->second] as $name => $person) {
        $team = App\Acts\Directory\KeepTeam::fromInput(['name' => $name.bin2hex(random_bytes(3)), 'people' => [$person->id]]);
        $this->w->did($team);
        ($this->rule)(['kind' => 'always', 'needs' => '1', 'team' => $team->id]);
    }
    $draft = ($this->submit)(($this->draft)());
    ($this->decide)($this->tobin, $draft);
    ($this->commit)($draft)->assertSessionHas('bad');
    ($this->decide)($this->second, $draft);
    ($this->commit)($draft)->assertRedirect('/ship');
});

it('keeps teams by stewards alone, with people who are there', function (): void {
    $this->actingAs($this->steward)->get('/directory/teams')->assertOk()->assertReads('Make a team');
    $this->actingAs($this->author)->get('/directory/teams')->assertOk()->assertDontSee('Make a team');
    $this->actingAs($this->w->bound())->get('/directory/teams')->assertForbidden();
    $refused = fn (array $input): ?string => $this->w->refusal(App\Acts\Directory\KeepTeam::class, $input);
    expect($refused(['name' => ' ']))->toBe('no-name')->and($refused(['name' => 'x', 'people' => ['01ARZ3NDEKTSV4RRFFQ69G5FAV']]))
        ->not->toBeNull();
    $team = App\Acts\Directory\KeepTeam::fromInput(['name' => 'Twins', 'people' => [$this->tobin->id]]);
    $this->w->did($team);
    expect($refused(['name' => 'Twins']))->toBe('name-taken');
    $this->actingAs($this->steward)->get("/directory/teams?team=$team->id")->assertOk()->assertReads('Change Twins');
});
