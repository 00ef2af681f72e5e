<?php

declare(strict_types=1);

use App\Acts\Directory\MakeServer;
use App\Acts\Engine\Note;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\RemovePrefix;
use App\Acts\Ship\KeepOutside;
use App\Acts\Ship\NoteOutside;
use App\Acts\Ship\RemoveOutside;
use App\Acts\Ship\TurnOutside;
use App\Jobs\RunOutside;
use App\Links\Unanswered;
use App\Live\OutsideCompare;
use App\Models\DraftEdit;
use App\Models\Outside;
use App\Models\OutsideRun;
use App\Models\Prefix;
use App\Models\RunState;
use App\Queries\OutsideHeld;
use HarborPost\Core\Planning\Sides\Pairing;
use HarborPost\Core\Planning\Sides\State;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Tests\Standins;
use Tests\World;

beforeEach(function (): void {
    config(['harbor.patience' => 0.5]);
    $this->w = World::make(false);
    $this->standins = new Standins(['buoy' => 'controller']);
    $this->top = $this->w->carve('10.0.0.0/8', ['kind' => 'supernet', 'name' => 'Machines', 'stage' => 'live']);
    $this->pool = $this->w->carve('10.1.0.0/16', ['kind' => 'supernet', 'name' => 'Web', 'stage' => 'live']);
    $this->part = $this->w->carve('10.1.1.0/24', ['name' => 'Front', 'stage' => 'live', 'gateway' => '10.1.1.1']);
    $keep = KeepOutside::fromInput([
        'name' => 'buoy-'.bin2hex(random_bytes(3)), 'address' => 'http://'.$this->standins->endpoint('buoy'), 'token' => 'secret',
        'space' => $this->w->space->id, 'under' => $this->top->id,
    ]);
    $this->w->did($keep);
    $this->out = Outside::query()->findOrFail($keep->id);
    $this->there = fn (array ...$objects) => $this->standins->tell('buoy', 'put', ['objects' => array_values($objects)]);
    $this->states = function (): array {
        $found = [];
        foreach (app(OutsideCompare::class)->lines($this->out->refresh()) as $line) {
            $found[$line->prefix().($line->groups() ? ' pool' : '')] = $line->state->value;
        }

        return $found;
    };
    $this->bring = function (string $then, array $states, array $more = []) {
        $keys = array_map(fn (Pairing $p): string => $p->key(), array_filter(
            app(OutsideCompare::class)->lines($this->out->refresh()),
            fn (Pairing $p): bool => in_array($p->state->value, $states, true),
        ));

        return $this->actingAs($this->w->people['planner'])
            ->post("/ship/outside/{$this->out->id}", ['then' => $then, 'take' => array_values($keys)] + $more);
    };
    $this->web = ['id' => 'web', 'prefix' => '10.1.0.0/16', 'pool' => true, 'name' => 'Web'];
    $this->front = ['id' => 'front', 'prefix' => '10.1.1.0/24', 'name' => 'Front', 'gateway' => '10.1.1.1'];
});

it('tests a connection step by step, and names the step that fails', function (): void {
    $last = fn (): array => array_slice(OutsideCompare::client($this->out->refresh())->test(), -1)[0];
    expect($last())->toMatchArray(['what' => 'rights', 'ok' => true]);
    $set = fn (array $values) => DB::table('outsides')->where('id', $this->out->id)->update($values);
    $set(['token' => encrypt('other', false)]);
    expect($last())->toMatchArray(['what' => 'credentials', 'ok' => false]);
    $set(['token' => encrypt('secret', false), 'address' => 'http://127.0.0.1:9']);
    expect($last())->toMatchArray(['what' => 'port', 'ok' => false]);
    $set(['address' => 'http://no-such-host.invalid']);
    expect($last())->toMatchArray(['what' => 'name', 'ok' => false]);
    $set(['address' => 'http://'.$this->standins->endpoint('buoy')]);
    $this->standins->tell('buoy', 'mode', ['mode' => 'refusing']);
    expect($last())->toMatchArray(['what' => 'system', 'ok' => false]);
    $this->standins->tell('buoy', 'mode', ['mode' => 'silent']);
    expect($last()['ok'])->toBeFalse();
    $this->actingAs($this->w->people['reader'])->get("/ship/outside/{$this->out->id}")->assertOk()->assertReads('did not answer')
        ->assertReads('The connection, step by step');
    $set(['address' => 'https://'.$this->standins->endpoint('buoy')]);
    expect($last())->toMatchArray(['what' => 'certificate', 'ok' => false]);
});

it('accounts for each prefix of either side', function (): void {
    ($this->there)($this->web, ['name' => 'Other'] + $this->front, ['id' => 'x', 'prefix' => '10.1.9.0/24', 'name' => 'Theirs'],
        ['id' => 'y', 'prefix' => '10.1.1.128/25'], ['id' => 'z', 'prefix' => 'nonsense'], ['id' => 'o', 'prefix' => '192.0.2.0/24']);
    $this->w->carve('10.2.0.0/16', ['kind' => 'supernet']);
    expect(($this->states)())->toBe([
        '10.1.0.0/16 pool' => 'same', '10.1.1.0/24' => 'differs', '10.1.1.128/25' => 'rule here', '10.1.9.0/24' => 'missing here',
        '10.2.0.0/16 pool' => 'missing there', 'nonsense' => 'unclear',
    ]);
    $page = $this->actingAs($this->w->people['planner'])->get("/ship/outside/{$this->out->id}")->assertOk();
    $page->assertReads('6 prefixes of both sides')->assertReads('Other')->assertReads('missing here');
    $this->get("/ship/outside/{$this->out->id}?state=same")->assertOk()->assertReads('10.1.0.0/16');
    $this->get('/ship/outside')->assertOk()->assertReads($this->out->name);
    $this->actingAs($this->w->bound())->get('/ship/outside')->assertForbidden();
});

it('takes in what was chosen, as one act, or into a draft', function (): void {
    ($this->there)($this->web, ['name' => 'Facade', 'gateway' => '10.1.1.254', 'resolvers' => ['10.9.9.9']] + $this->front,
        ['id' => 'p', 'prefix' => '10.3.0.0/16', 'pool' => true, 'name' => 'New'],
        ['id' => 'q', 'prefix' => '10.3.1.0/24', 'name' => 'Newer', 'resolvers' => ['10.9.9.8']]);
    ($this->bring)('draft', ['missing here']);
    expect(DraftEdit::query()->pluck('action')->all())->toBe(['carve-prefix', 'carve-prefix', 'set-setting'])
        ->and(Prefix::query()->where('name', 'Newer')->exists())->toBeFalse();
    DB::table('drafts')->update(['state' => 'dropped']);
    ($this->bring)('here', ['missing here', 'differs'])->assertSessionHas('done');
    expect($this->part->refresh()->name)->toBe('Facade')->and((string) $this->part->gateway)->toBe('10.1.1.254')
        ->and(Prefix::query()->where('name', 'Newer')->sole()->parent?->name)->toBe('New')
        ->and(array_unique(array_values(($this->states)())))->toBe(['same']);
    ($this->bring)('here', ['same'])->assertSessionHas('bad');
    // Lease servers follow from scopes, and no name servers at all cannot be taken: nothing is said to be taken that is not.
    ($this->there)(['name' => 'Facade', 'gateway' => '10.1.1.254', 'leases' => ['10.9.9.67']] + $this->front);
    expect(($this->states)()['10.1.1.0/24'])->toBe('differs');
    ($this->bring)('here', ['differs'])->assertSessionHas('bad');
    ($this->there)(['name' => 'Facade', 'gateway' => '10.1.1.254', 'resolvers' => ['10.9.9.9']] + $this->front);
    ($this->bring)('there', ['same'])->assertSessionHas('bad');
});

it('tells the other side, reads it back, and does it twice without a change', function (): void {
    ($this->there)($this->web, ['gateway' => '10.1.1.9'] + $this->front);
    $this->w->carve('10.4.0.0/16', ['kind' => 'supernet', 'name' => 'Late']);
    $this->w->carve('10.4.4.0/24', ['name' => 'Later']);
    ($this->bring)('there', ['differs', 'missing there'])->assertSessionHas('done');
    $run = OutsideRun::query()->sole();
    expect($run->state)->toBe(RunState::Done)->and(array_column($run->steps, 'prefix'))->toBe(['10.4.0.0/16', '10.1.1.0/24', '10.4.4.0/24'])
        ->and($run->chosen)->toBe([])->and(array_unique(array_values(($this->states)())))->toBe(['same']);
    $outside = $this->out;
    $again = (string) Illuminate\Support\Str::ulid();
    $this->w->acts()->commit(null, [new NoteOutside($outside->id, run: [
        'id' => $again, 'state' => RunState::Running, 'chosen' => ["put {$this->part->id}|front"], 'steps' => [],
    ])]);
    app()->call([new RunOutside($again), 'handle']);
    expect(OutsideRun::query()->findOrFail($again)->steps[0]['state'])->toBe('same');
});

it('says when the other side lies, refuses or does not answer, and leaves the rest', function (): void {
    ($this->there)($this->web, ['gateway' => '10.1.1.9'] + $this->front);
    $this->standins->tell('buoy', 'mode', ['mode' => 'wrong']);
    ($this->bring)('there', ['differs']);
    $lied = OutsideRun::query()->sole();
    expect($lied->state)->toBe(RunState::Failed)
        ->and($lied->steps[0]['message'])->toBe('it took it, and read back it is not what was told');
    $this->standins->tell('buoy', 'mode', ['mode' => 'normal']);
    OutsideRun::query()->getQuery()->delete();
    $keys = array_map(fn (Pairing $p): string => 'put '.$p->key(), app(OutsideCompare::class)->lines($this->out));
    $run = (string) Illuminate\Support\Str::ulid();
    $this->w->acts()->commit(null, [new NoteOutside($this->out->id,
        run: ['id' => $run, 'state' => RunState::Running, 'chosen' => $keys, 'steps' => []])]);
    $this->standins->kill('buoy');
    app()->call([new RunOutside($run), 'handle']);
    expect(OutsideRun::query()->sole()->state)->toBe(RunState::Failed)->and(fn () => ($this->states)())->toThrow(Unanswered::class);
    $this->actingAs($this->w->people['reader'])->get("/ship/outside/{$this->out->id}")->assertOk()->assertReads('cannot be reached');
});

it('removes at the other side only what it holds alone, after it was said twice', function (): void {
    ($this->there)($this->web, $this->front, ['id' => 'x', 'prefix' => '10.1.9.0/24'],
        ['id' => 'e', 'prefix' => '10.8.0.0/16', 'pool' => true],
        ['id' => 'f', 'prefix' => '10.8.1.0/24']);
    ($this->bring)('remove', ['missing here'])->assertSessionHas('bad');
    expect(($this->states)())->toHaveCount(5);
    ($this->bring)('remove', ['missing here', 'same'], ['sure' => '1'])->assertSessionHas('done');
    // The part goes before its pool, which is refused while it is in use.
    expect(($this->states)())->toBe(['10.1.0.0/16 pool' => 'same', '10.1.1.0/24' => 'same'])
        ->and(OutsideRun::query()->sole()->state)->toBe(RunState::Done)
        ->and(array_column(OutsideRun::query()->sole()->steps, 'prefix'))->toBe(['10.1.9.0/24', '10.8.1.0/24', '10.8.0.0/16']);
});

it('stops a run between two lines', function (): void {
    ($this->there)($this->web, $this->front);
    $id = (string) Illuminate\Support\Str::ulid();
    $this->w->acts()->commit(null, [new NoteOutside($this->out->id, run: [
        'id' => $id, 'state' => RunState::Running, 'chosen' => ["put {$this->part->id}|front"], 'steps' => [],
    ])]);
    ($this->bring)('there', ['same', 'differs'])->assertSessionHas('bad');
    $this->actingAs($this->w->people['planner'])->post("/ship/outside/{$this->out->id}/stop/$id")->assertRedirect();
    app()->call([new RunOutside($id), 'handle']);
    expect(OutsideRun::query()->findOrFail($id)->state)->toBe(RunState::Stopped);
});

it('keeps in step by itself in the direction that leads, and twice the same is no change', function (): void {
    ($this->there)($this->web, ['name' => 'Facade'] + $this->front, ['id' => 'x', 'prefix' => '10.1.9.0/24', 'name' => 'Theirs']);
    expect($this->w->refusal(TurnOutside::class, ['outside' => $this->out->id, 'leads' => 'nobody', 'keeps' => '1']))->toBe('nobody-leads');
    Artisan::call('outside:step', ['name' => $this->out->name]);
    expect($this->part->refresh()->name)->toBe('Front');
    $turn = TurnOutside::fromInput(['outside' => $this->out->id, 'leads' => 'there', 'keeps' => '1']);
    $later = $this->w->acts()->rehearse($this->w->people['planner'], [$turn])->ledgers[0]->later;
    expect($later[0][0])->toContain('1 are changed and 1 made in the plan by itself, 0 that only');
    $this->w->did($turn);
    Artisan::call('outside:step', ['name' => $this->out->name]);
    expect($this->part->refresh()->name)->toBe('Facade')->and(Prefix::query()->where('name', 'Theirs')->exists())->toBeTrue();
    $history = DB::table('history')->count();
    Artisan::call('outside:step', ['name' => $this->out->name]);
    expect(DB::table('history')->count())->toBe($history);
    // Whoever edits there is told that it is written over.
    $codes = array_map(fn (Note $n): string => $n->code, $this->w->acts()->rehearse(
        $this->w->people['planner'],
        [ChangePrefix::fromInput(['prefixes' => [$this->part->id], 'name' => 'Mine'])],
    )->notes());
    expect($codes)->toContain('outside-leads')
        ->and(array_map(fn (Note $n): string => $n->code, $this->w->acts()->rehearse(
            $this->w->people['planner'],
            [RemovePrefix::fromInput(['prefix' => $this->w->subnet->id])],
        )->notes()))->not->toContain('outside-leads');
    $this->w->did(TurnOutside::fromInput(['outside' => $this->out->id, 'leads' => 'here', 'keeps' => '1']));
    $this->w->did(ChangePrefix::fromInput(['prefixes' => [$this->part->id], 'name' => 'Mine']));
    Artisan::call('outside:step', ['name' => $this->out->name]);
    expect(array_unique(array_values(($this->states)())))->toBe(['same'])
        ->and(OutsideRun::query()->orderByDesc('started_at')->orderByDesc('id')->first()?->person_id)->toBeNull();
});

it('does not try what failed again every few minutes', function (): void {
    ($this->there)($this->web, ['gateway' => '10.1.1.9'] + $this->front);
    $this->w->did(TurnOutside::fromInput(['outside' => $this->out->id, 'leads' => 'here', 'keeps' => '1']));
    $this->standins->tell('buoy', 'mode', ['mode' => 'wrong']);
    $step = fn () => Artisan::call('outside:step', ['name' => $this->out->name]);
    $step();
    $step();
    expect(OutsideRun::query()->count())->toBe(1)->and(OutsideRun::query()->sole()->state)->toBe(RunState::Failed);
    $this->travel(61)->minutes();
    $step();
    expect(OutsideRun::query()->count())->toBe(2);
});

it('reads page after page, and more than one', function (): void {
    $objects = [$this->web];
    for ($i = 0; $i < 450; $i++) {
        $objects[] = ['id' => sprintf('n%04d', $i), 'prefix' => sprintf('10.1.%d.%d/28', 16 + intdiv($i, 16), 16 * ($i % 16))];
    }
    ($this->there)(...$objects);
    expect(array_count_values(($this->states)()))->toBe(['same' => 1, 'missing there' => 1, 'missing here' => 450]);
    $this->actingAs($this->w->people['planner'])->get("/ship/outside/{$this->out->id}?page=3")->assertOk()->assertReads('page 3 of 3');
});

it('is not asked where more of ours lie than are compared: none would be missing that is not', function (): void {
    expect(OutsideHeld::of($this->out, 2))->toHaveCount(2)
        ->and(fn () => OutsideHeld::of($this->out, 1))->toThrow(\OverflowException::class, 'more than 1 prefixes');
});

it('is written down by stewards alone, with an address that can be called', function (): void {
    $keep = fn (array $more, ?string $who = 'steward'): ?string => $this->w->refusal(KeepOutside::class, $more + [
        'name' => 'other', 'address' => 'https://pools.example', 'space' => $this->w->space->id,
    ], $this->w->people[$who]);
    expect($keep([]))->toBeNull()->and($keep([], 'planner'))->toBe('not-allowed')->and($keep(['name' => $this->out->name]))
        ->toBe('name-taken')
        ->and($keep(['address' => 'ftp://x']))->toBe('bad-address')->and($keep(['address' => 'https://a:b@x']))->toBe('bad-address')
        ->and($keep(['name' => ' ']))->toBe('no-name')->and($keep(['under' => $this->part->id]))->toBe('bad-under');
    $this->w->did(new RemoveOutside($this->out->id), $this->w->people['steward']);
    expect(Outside::query()->count())->toBe(0)->and(State::tryFrom('same'))->toBe(State::Same)
        ->and($this->w->refusal(MakeServer::class, ['name' => '', 'kind' => 'dns', 'endpoint' => 'x:1'], $this->w->people['steward']))
        ->toBe('no-name');
});
