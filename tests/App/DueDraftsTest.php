<?php

declare(strict_types=1);

use App\Acts\Directory\ChangePerson;
use App\Acts\Directory\MakeRule;
use App\Acts\Drafts\Drafts;
use App\Acts\Drafts\DueDrafts;
use App\Acts\Plan\ChangePrefix;
use App\Domain\Watch\NoticeLook;
use App\Models\Draft;
use App\Models\DraftState;
use App\Queries\Due;
use Illuminate\Support\Facades\DB;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make(false);
    ['planner' => $this->author, 'approver' => $this->tobin] = $this->w->people;
    DB::table('drafts')->where('state', 'submitted')->update(['due_at' => null, 'due_problem' => '']);
    $this->travelTo('2026-11-30 12:00:00');
    $this->actingAs($this->author);
    $change = ['prefixes' => [$this->w->subnet->id], 'description' => 'ours', 'then' => 'draft'];
    $this->post('/act/change-prefix', $change)->assertRedirect();
    $draft = Drafts::open($this->author);
    $this->post("/ship/drafts/$draft->id/submit", ['title' => 'Words for the subnet'])->assertSessionHas('done');
    $this->draft = $draft->refresh();
    $this->time = function (string $at, array $more = []) {
        preg_match('/name="shown" value="(\w{64})"/', (string) $this->get("/ship/drafts/{$this->draft->id}")->getContent(), $m);

        return $this->post("/ship/drafts/{$this->draft->id}/time",
            $more + ['at' => $at, 'zone' => 'Europe/London', 'shown' => $m[1] ?? '']);
    };
    $this->said = fn (): string => $this->w->subnet->refresh()->description;
    $this->run = fn (): array => app(DueDrafts::class)->run();
});

it('is committed by itself when its time comes, once, as its author', function (): void {
    ($this->time)('2026-11-30T22:00')->assertSessionHas('done');
    $this->get("/ship/drafts/{$this->draft->id}")->assertOk()->assertReads('committed by itself Mon 30 Nov 22:00 UTC');
    expect(($this->run)())->toBe([])->and(array_column(Due::next($this->author), 'id'))->toContain("draft-{$this->draft->id}");
    $this->travelTo('2026-11-30 21:59:59');
    expect(($this->run)())->toBe([]);
    $this->travelTo('2026-11-30 22:00:10');
    expect(($this->run)())->toBe(['Words for the subnet: committed'])->and(($this->said)())->toBe('ours')
        ->and($this->draft->refresh()->state)->toBe(DraftState::Committed)->and(($this->run)())->toBe([]);
    $row = DB::table('history')->where('object_id', $this->w->subnet->id)->orderByDesc('id')->first();
    expect($row->person_id)->toBe($this->author->id)->and($row->via)->toBe('at its time');
});

it('takes the clock of a place, in summer too', function (): void {
    $this->travelTo('2026-06-30 12:00:00');
    ($this->time)('2026-06-30T22:00');
    expect($this->draft->refresh()->due_at?->format('Y-m-d H:i'))->toBe('2026-06-30 21:00');
});

it('refuses a time that is none', function (string $at, array $more): void {
    ($this->time)($at, $more)->assertSessionHas('bad');
    expect($this->draft->refresh()->due_at)->toBeNull();
})->with([
    'over' => ['2026-11-30T11:00', []], 'far' => ['2028-01-01T00:00', []], 'none' => ['tonight', []],
    'left out in spring' => ['2027-03-28T01:30', []], 'not shown' => ['2026-11-30T22:00', ['shown' => str_repeat('0', 64)]],
    'no zone' => ['2026-11-30T22:00', ['zone' => 'Mars/Base']],
]);

it('is not committed when something else would be written, and says why', function (): void {
    ($this->time)('2026-11-30T22:00');
    $this->w->did(new ChangePrefix([$this->w->subnet->id], description: 'theirs'));
    $this->travelTo('2026-11-30 22:01:00');
    expect(($this->run)()[0])->toContain('not committed')->and(($this->said)())->toBe('theirs')
        ->and($this->draft->refresh()->due_problem)->toContain('changed meanwhile')->and(($this->run)())->toBe([]);
    $this->get("/ship/drafts/{$this->draft->id}")->assertOk()->assertReads('It was not committed at its time');
    NoticeLook::now();
    expect(DB::table('notices')->where('kind', 'due')->where('cause', 'like', "%{$this->draft->id}%")->exists())->toBeTrue();
    // Decided and given another time it is.
    $this->post("/ship/drafts/{$this->draft->id}/edits/{$this->draft->edits[0]->id}", [
        'what' => 'mine', 'object' => "prefix:{$this->w->subnet->id}", 'version' => $this->w->subnet->refresh()->version,
    ])->assertSessionHas('done');
    ($this->time)('2026-11-30T23:00')->assertSessionHas('done');
    $this->travelTo('2026-11-30 23:00:30');
    ($this->run)();
    expect(($this->said)())->toBe('ours');
    NoticeLook::now();
    expect(DB::table('notices')->where('kind', 'due')->whereNotNull('cause')->where('cause', 'like', "%{$this->draft->id}%")->exists())
        ->toBeFalse();
});

it('needs the agreement that rules ask for then, however it was when the time was set', function (): void {
    ($this->time)('2026-11-30T22:00');
    $this->w->did(MakeRule::fromInput(['kind' => 'always', 'needs' => '1']));
    $this->travelTo('2026-11-30 22:00:10');
    ($this->run)();
    expect(($this->said)())->toBe('')->and($this->draft->refresh()->due_problem)->toContain('one approver');
    ($this->time)('2026-11-30T23:00')->assertSessionHas('done');
    $digest = Draft::query()->with('edits')->findOrFail($this->draft->id)->digest();
    $this->actingAs($this->tobin)->post("/ship/drafts/{$this->draft->id}/decide", ['verdict' => 'agreed', 'digest' => $digest]);
    $this->travelTo('2026-11-30 23:00:10');
    ($this->run)();
    expect(($this->said)())->toBe('ours');
});

it('goes by the rights that its author has then', function (): void {
    ($this->time)('2026-11-30T22:00');
    $this->w->did(ChangePerson::fromInput(['person' => $this->author->id, 'roles' => ['reader']]));
    $this->travelTo('2026-11-30 22:00:10');
    ($this->run)();
    expect(($this->said)())->toBe('')->and($this->draft->refresh()->due_problem)->toContain('Not available');
});

it('is not committed for somebody who may not sign in any more', function (): void {
    ($this->time)('2026-11-30T22:00');
    $this->w->did(ChangePerson::fromInput(['person' => $this->author->id, 'active' => '0']));
    $this->travelTo('2026-11-30 22:00:10');
    ($this->run)();
    expect(($this->said)())->toBe('')->and($this->draft->refresh()->due_problem)->toContain('may not sign in');
});

it('is not committed hours later, when the clock of the application stood still', function (): void {
    ($this->time)('2026-11-30T22:00');
    $this->travelTo('2026-12-01 03:00:00');
    ($this->run)();
    expect(($this->said)())->toBe('')->and($this->draft->refresh()->due_problem)->toContain('more than 30 minutes');
    // A clock that steps back commits nothing twice and nothing anew.
    $this->travelTo('2026-11-30 22:00:10');
    expect(($this->run)())->toBe([]);
});

it('has no time any more when it is taken back, dropped, or somebody says so', function (string $how): void {
    ($this->time)('2026-11-30T22:00');
    match ($how) {
        'reopen' => $this->post("/ship/drafts/{$this->draft->id}/reopen"),
        'drop' => $this->post('/act/drop-draft', ['draft' => $this->draft->id, 'then' => 'commit']),
        default => $this->post("/ship/drafts/{$this->draft->id}/time", ['at' => '']),
    };
    $this->travelTo('2026-11-30 22:00:10');
    expect(($this->run)())->toBe([])->and(($this->said)())->toBe('')->and($this->draft->refresh()->due_at)->toBeNull();
})->with(['reopen', 'drop', 'time']);

it('is timed by its author alone', function (): void {
    $this->actingAs($this->tobin);
    $this->post("/ship/drafts/{$this->draft->id}/time", ['at' => '2026-11-30T22:00', 'zone' => 'UTC', 'shown' => str_repeat('a', 64)])
        ->assertNotFound();
    expect($this->draft->refresh()->due_at)->toBeNull();
});
