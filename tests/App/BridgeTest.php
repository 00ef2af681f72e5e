<?php

declare(strict_types=1);

use App\Acts\Directory\SetPanels;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\MarkFavourite;
use App\Models\Draft;
use App\Queries\Bridge;
use App\Queries\Forecasts;
use Illuminate\Support\Facades\DB;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    $this->words = fn ($who, string $panel): string => implode(' | ', array_map(
        fn (array $l): string => "$l[words] ($l[hint])",
        Bridge::of($who->refresh())[$panel] ?? [],
    ));
});

it('is the first page of everybody, empty or not', function (): void {
    foreach ([...array_values($this->w->people), $this->w->bound()] as $person) {
        $this->actingAs($person)->get('/')->assertRedirect('/bridge');
        $this->get('/bridge')->assertOk()->assertSee('Waits for you');
    }
});

it('says what waits, for the one it waits for', function (): void {
    ['planner' => $planner, 'approver' => $approver] = $this->w->people;
    $this->actingAs($planner)->post('/act/change-prefix', ['prefixes' => [$this->w->subnet->id], 'name' => 'X', 'then' => 'draft']);
    expect(($this->words)($planner, 'waits'))->toContain('Your draft has 1 edit')->and(($this->words)($approver, 'waits'))->toBe('');
    $draft = Draft::query()->where('person_id', $planner->id)->sole();
    $this->post("/ship/drafts/$draft->id/submit", ['title' => 'Call it X']);
    expect(($this->words)($approver, 'waits'))->toContain('asks you to read "Call it X"')
        ->and(($this->words)($planner, 'waits'))->toContain('"Call it X" waits for others')
        ->and(($this->words)($this->w->people['reader'], 'waits'))->toBe('');
    $this->actingAs($approver)->post("/ship/drafts/$draft->id/decide", [
        'verdict' => 'refused', 'reason' => 'call it Y', 'digest' => $draft->refresh()->load('edits')->digest(),
    ]);
    expect(($this->words)($approver, 'waits'))->toBe('')->and(($this->words)($planner, 'waits'))
        ->toContain('refused "Call it X" (call it Y)');
});

it('says what is wrong, and nothing when nothing is', function (): void {
    $reader = $this->w->people['reader'];
    expect(($this->words)($reader, 'wrong'))->toBe('');
    DB::table('server_states')->insert(
        ['server_id' => $this->w->servers['dh1'], 'problem' => 'dh1 did not answer', 'problem_since' => now()],
    );
    DB::table('drifts')->insert([
        'server_id' => $this->w->servers['dh1'], 'kind' => 'scope', 'object_id' => $this->w->scope->id, 'title' => 'x',
        'state' => 'differs',
        'removed' => '[]', 'added' => '[]', 'removed_count' => 0, 'added_count' => 0, 'found_at' => now(),
    ]);
    DB::table('scope_servers')->where('scope_id', $this->w->scope->id)->delete();
    $words = ($this->words)($reader, 'wrong');
    expect($words)->toContain('could not be read (dh1 did not answer)')->toContain('1 object on')
        ->toContain('live scopes are on no server');
    expect(($this->words)($reader, 'servers'))->toContain('does not answer since');
});

it('shows what fills first, soonest first, and only what one may see', function (): void {
    $row = fn (string $prefix, int $days, float $percent): array => [
        'prefix_id' => $prefix, 'percent' => $percent, 'kind' => 'rising', 'samples' => 9, 'slope' => 1, 'slope_low' => 1,
        'slope_high' => 1,
        'middle_day' => 1, 'middle_value' => 1, 'full_day' => Forecasts::today() + $days,
    ];
    $bound = $this->w->bound();
    $own = $this->w->space->id;
    $gates = DB::table('prefixes')->where('space_id', $own)->where('name', 'Gates')->value('id');
    DB::table('forecasts')->insert([$row($this->w->subnet->id, 30, 70.0), $row($gates, 10, 90.0), $row($this->w->top->id, -3, 50.0)]);
    expect(($this->words)($this->w->people['reader'], 'fills'))->toMatch('/192.0.2.128.26 Gates .90 %.*192.0.2.0.25 Ticketing .70 %/')
        ->not->toContain('Quay');
    expect(($this->words)($bound, 'fills'))->toContain('Gates')->not->toContain('Ticketing')
        ->and(array_keys(Bridge::of($bound)))->toBe(['waits', 'fills', 'favourites', 'report']);
    // However many of others fill sooner.
    $like = (array) DB::table('prefixes')->where('id', $this->w->subnet->id)->first();
    foreach (range(0, 59) as $i) {
        $id = (string) Illuminate\Support\Str::ulid();
        DB::table('prefixes')->insert(['id' => $id, 'first' => inet_pton("10.99.$i.0")] + $like);
        DB::table('forecasts')->insert($row($id, 1, 99.0));
    }
    expect(($this->words)($bound, 'fills'))->toContain('Gates')->not->toContain('99 %');
});

it('keeps favourites and what one did last', function (): void {
    $planner = $this->w->people['planner'];
    $this->w->acts()->commit($planner, [MarkFavourite::fromInput(['prefix' => $this->w->subnet->id, 'on' => '1'])]);
    $this->w->acts()->commit($planner, [new ChangePrefix([$this->w->subnet->id], name: 'Y')], reason: 'r');
    expect(($this->words)($planner, 'favourites'))->toContain('192.0.2.0/25')
        ->and(($this->words)($planner, 'touched'))->toContain('Change prefix')
        ->and(($this->words)($this->w->people['operator'], 'touched'))->toBe('');
});

it('stands in an order of one\'s own, and goes back', function (): void {
    $reader = $this->w->people['reader'];
    $this->actingAs($reader)->post('/act/set-panels', ['order' => 'servers waits nonsense', 'then' => 'commit']);
    expect(array_slice(Bridge::order($reader->refresh()), 0, 3))->toBe(['servers', 'waits', 'wrong']);
    $this->get('/bridge')->assertOk()->assertSee('Back to the given order');
    $this->post('/act/set-panels', ['order' => '', 'then' => 'commit']);
    expect(Bridge::order($reader->refresh())[0])->toBe('waits');
    expect($this->w->refusal(SetPanels::class, ['order' => '<b>'], $reader))->toBe('no-such-panel');
});

it('keeps a report and a chart on the bridge, as far as somebody may see them', function (): void {
    $w = $this->w;
    ['operator' => $operator, 'reader' => $reader] = $w->people;
    $keep = App\Acts\Watch\KeepReport::fromInput(['name' => 'Subnets here', 'kind' => 'subnet', 'columns' => ['prefix', 'name'],
        'where' => ['1-fact' => 'name', '1-test' => 'is', '1-value' => 'Ticketing'], 'every' => 'day', 'people' => [$operator->id]]);
    $w->did($keep, $operator);
    expect(($this->words)($operator, 'report'))->toBe('');
    $w->did(SetPanels::fromInput(['report' => $keep->id]), $operator);
    expect(($this->words)($operator, 'report'))->toContain('Subnets here (as it is now)')->toContain('(Ticketing)');
    // What was brought stands there as it was brought.
    $this->travelTo(App\Models\Report::query()->findOrFail($keep->id)->due_at->addMinute());
    App\Domain\Watch\ReportRun::due();
    $w->did(new ChangePrefix([$w->subnet->id], name: 'Called otherwise'));
    expect(($this->words)($operator, 'report'))->toContain('rows for')->toContain('(Ticketing)');
    // Who does not get it keeps it not, and it goes with the report.
    expect($w->refusal(SetPanels::class, ['report' => $keep->id], $reader))->toBe('gone');
    DB::table('series')->insert(['server_id' => $w->servers['ns1'], 'family' => 'dns_questions', 'labels' => '', 'type' => 'counter',
        'unit' => '', 'help' => 'Questions', 'at' => now()]);
    $w->did(SetPanels::fromInput(['server' => $w->servers['ns1'], 'figure' => 'dns_questions']), $operator);
    expect(Bridge::chart($operator->refresh())['family'])->toBe('dns_questions')->and($operator->bridge['report'])->toBe($keep->id)
        ->and($w->refusal(SetPanels::class, ['server' => $w->servers['ns1'], 'figure' => 'moons'], $operator))->toBe('no-figure')
        ->and($w->refusal(SetPanels::class, ['server' => $w->servers['ns1'], 'figure' => 'dns_questions'], $w->bound()))
        ->toBe('not-available');
    $this->actingAs($operator)->get('/bridge')->assertOk()->assertReads('Subnets here')->assertReads('Nothing was measured in this time');
    $w->did(SetPanels::fromInput(['server' => '-', 'report' => '-']), $operator);
    expect(Bridge::chart($operator->refresh()))->toBeNull()->and(($this->words)($operator, 'report'))->toBe('');
    // The order is its own: keeping changes none, and the given one comes back.
    $w->did(SetPanels::fromInput(['order' => 'wrong waits']), $operator);
    $w->did(SetPanels::fromInput(['report' => $keep->id]), $operator);
    expect($operator->refresh()->panels)->toBe('wrong waits');
    $w->did(SetPanels::fromInput(['order' => '']), $operator);
    expect($operator->refresh()->panels)->toBeNull();
});

it('reads the first lines of what was packed, however it was cut', function (): void {
    $rows = array_map(static fn (int $i): string => "\"a, $i\",\"two\nlines\",".bin2hex(random_bytes(40)), range(1, 4000));
    $packed = (string) gzencode("Name,Words,X\r\n".implode("\r\n", $rows)."\r\n");
    foreach ([strlen($packed), 65536, 3000] as $bytes) {
        $lines = App\Queries\RunHead::lines(substr($packed, 0, $bytes), 4);
        expect($lines)->toHaveCount(4)->and($lines[0])->toBe(['Name', 'Words', 'X'])->and($lines[3][0])->toBe('a, 3')
            ->and($lines[3][1])->toBe("two\nlines");
    }
    expect(App\Queries\RunHead::lines('', 4))->toBe([])->and(App\Queries\RunHead::lines('no gzip', 4))->toBe([])
        ->and(App\Queries\RunHead::lines((string) gzencode('Name'), 4))->toBe([]);
});

it('takes panels away and puts them back, each for themselves', function (): void {
    ['operator' => $operator, 'reader' => $reader] = $this->w->people;
    $this->w->did(SetPanels::fromInput(['hide' => 'touched']), $operator);
    $this->w->did(SetPanels::fromInput(['hide' => 'wrong']), $operator);
    expect(array_keys(Bridge::of($operator->refresh())))->not->toContain('touched')->not->toContain('wrong')
        ->and(Bridge::away($operator))->toBe(['wrong', 'touched'])->and(Bridge::order($reader->refresh()))->toContain('touched');
    $this->actingAs($operator)->get('/bridge')->assertOk()->assertReads('Taken away:')->assertDontSee('id="panel-wrong"', false);
    $this->w->did(SetPanels::fromInput(['show' => 'wrong']), $operator);
    expect(Bridge::away($operator->refresh()))->toBe(['touched'])->and(Bridge::order($operator))->toContain('wrong')
        ->and($this->w->refusal(SetPanels::class, ['hide' => 'moon'], $operator))->toBe('no-such-panel');
    // What is taken away is asked nothing.
    expect(Bridge::of($operator))->not->toHaveKey('touched');
});
