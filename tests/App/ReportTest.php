<?php

declare(strict_types=1);

use App\Acts\Directory\ChangePerson;
use App\Acts\Directory\MakeSite;
use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Acts\Plan\CarvePrefix;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\PlaceHost;
use App\Acts\Watch\KeepAudit;
use App\Acts\Watch\KeepReport;
use App\Acts\Watch\WaiveFinding;
use App\Domain\Plan\Counter;
use App\Domain\Watch\AuditRun;
use App\Domain\Watch\ReportRun;
use App\Models\Audit;
use App\Models\FactKind;
use App\Models\Host;
use App\Models\Person;
use App\Models\Report;
use App\Queries\AuditTable;
use App\Queries\Facts\Catalogue;
use App\Queries\Reach;
use App\Queries\ReportTable;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Tests\World;

/** An act that writes more rows than a history lists one by one, as a file that is taken over does. */
final readonly class WritesVeryMany extends Act
{
    public function __construct(public string $prefix, public string $space, public string $word)
    {
    }

    public function title(): string
    {
        return 'write very many';
    }

    public static function may(Person $person): bool
    {
        return true;
    }

    public function apply(Ledger $ledger): void
    {
        $ledger->bulk(Host::class, array_map(fn (int $n): array => [
            'id' => (string) Str::ulid(), 'version' => 1, 'space_id' => $this->space, 'family' => 4,
            'address' => pack('N', 0xC6336400 + $n), 'prefix_id' => $this->prefix, 'name' => "$this->word-$n",
        ], range(1, 600)));
    }
}

beforeEach(function (): void {
    $this->w = World::make();
    $this->report = function (array $with, ?Person $by = null): Report {
        $act = KeepReport::fromInput($with + ['name' => 'R', 'kind' => 'subnet']);
        $this->w->did($act, $by ?? $this->w->people['operator']);

        return Report::query()->findOrFail($act->id);
    };
    $this->cells = fn (Report $report, ?App\Models\Person $by = null): array => array_column(
        iterator_to_array(ReportTable::of($report, $by === null ? Reach::whole() : Reach::of($by))->rows(), false),
        'cells',
    );
});

it('reads every fact of every kind, and sorts and asks by each', function (FactKind $kind): void {
    $facts = array_keys(Catalogue::of($kind));
    foreach ($facts as $fact) {
        foreach (App\Queries\Facts\Test::cases() as $test) {
            $report = new Report(['name' => 'x', 'kind' => $kind, 'columns' => $facts, 'sort' => "-$fact", 'by' => $fact, 'conditions' => [
                ['fact' => $fact, 'test' => $test->value, 'value' => '1'],
            ]]);
            $table = ReportTable::of($report, Reach::whole());
            expect(count(iterator_to_array($table->rows(50), false)))->toBe(min(50, $table->count()))->and(array_sum($table->groups()))
                ->toBe($table->count());
        }
    }
    $bound = $this->w->bound();
    $none = ReportTable::of(
        new Report(['name' => 'x', 'kind' => $kind, 'columns' => [], 'sort' => '', 'by' => '', 'conditions' => []]),
        Reach::of($bound),
    );
    expect($none->count())->toBe($kind === FactKind::Subnet ? 1 : 0);
})->with(FactKind::cases());

it('lists what its sentence says, in that order', function (): void {
    $w = $this->w;
    $site = MakeSite::fromInput(['name' => 'Isles '.bin2hex(random_bytes(2))]);
    $w->did($site);
    $inner = MakeSite::fromInput(['name' => 'Quay '.bin2hex(random_bytes(2)), 'parent' => $site->id]);
    $w->did($inner);
    $w->did(new ChangePrefix([$w->subnet->id], site: $inner->id));
    $small = $w->carve('192.0.2.128/30', ['name' => 'Small', 'stage' => 'live']);
    $w->did(new ChangePrefix([$small->id], site: $inner->id, gateway: '192.0.2.129'));
    $w->did(PlaceHost::fromInput(['prefix' => $small->id, 'name' => 'only']));
    Counter::fold();
    $report = ($this->report)([
        'site' => $site->id, 'where' => ['1-fact' => 'use', '1-test' => 'above', '1-value' => '80'], 'sort' => '-use',
        'columns' => ['prefix', 'name', 'use', 'site'], 'by' => 'site',
    ]);
    expect(($this->cells)($report))->toBe([[
        'prefix' => '192.0.2.128/30', 'name' => 'Small', 'use' => '100', 'site' => $inner->name,
    ]]);
    $report->conditions = [];
    expect(array_column(($this->cells)($report), 'name'))->toBe(['Small', 'Ticketing']);
    $page = $this->actingAs($w->people['operator'])->get("/watch/reports/$report->id")->assertOk();
    $page->assertReads('192.0.2.128/30')->assertReads('where use in % above 80');
});

it('brings each recipient what they may see, once, and plans the next run', function (): void {
    $w = $this->w;
    $bound = $w->bound();
    $report = ($this->report)([
        'every' => 'week', 'day' => '1', 'time' => '07:00', 'zone' => 'Europe/London', 'columns' => ['prefix'],
        'people' => [$w->people['planner']->id, $bound->id],
    ]);
    expect($report->due_at)->not->toBeNull()->and(ReportRun::due())->toBe([]);
    $this->travelTo($report->due_at->addMinute());
    $said = ReportRun::due();
    expect(count($said))->toBe(2)->and(ReportRun::due())->toBe([]);
    $runs = DB::table('report_runs')->where('report_id', $report->id)->pluck('body', 'person_id');
    $lines = fn (string $id): array => explode("\r\n", trim((string) gzdecode((string) $runs[$id])));
    expect($lines($bound->id))->toBe(['Subnet', '192.0.2.128/26'])->and($lines($w->people['planner']->id))->toContain('192.0.2.0/25');
    expect(
        $report->refresh()->due_at->diffInDays(now()->utc(), true),
    )->toBeLessThanOrEqual(7.1);
    // A second scheduler that took the same report a moment earlier finds its rows claimed.
    DB::table('reports')->where('id', $report->id)->update(['due_at' => DB::table('report_runs')->where('report_id', $report->id)
        ->value('due_at')]);
    expect(ReportRun::due())->toBe([])->and(DB::table('report_runs')->where('report_id', $report->id)->count())->toBe(2);
    // The run is its reader's own.
    $run = DB::table('report_runs')->where('person_id', $bound->id)->value('id');
    $this->actingAs($bound)->get("/watch/runs/$run")->assertOk()->assertSee('192.0.2.128/26');
    $this->actingAs($w->people['planner'])->get("/watch/runs/$run")->assertNotFound();
    expect(DB::table('report_runs')->where('id', $run)->value('seen_at'))->not->toBeNull();
});

it('says when a recipient is gone, and what came of an empty run', function (): void {
    $w = $this->w;
    $report = ($this->report)([
        'every' => 'day', 'people' => [$w->people['reader']->id, $w->people['planner']->id],
        'where' => ['1-fact' => 'name', '1-test' => 'is', '1-value' => 'Nothing like this'],
    ]);
    $w->did(ChangePerson::fromInput(['person' => $w->people['reader']->id, 'active' => '0']));
    $this->travelTo($report->due_at->addMinute());
    ReportRun::due();
    $words = DB::table('report_runs')->where('report_id', $report->id)->pluck('words', 'state')->all();
    ksort($words);
    expect($words['empty'])->toContain('nothing is in it')->and($words['failed'])->toContain('may not sign in any more');
});

it('is for its author and its readers alone', function (): void {
    $w = $this->w;
    $report = ($this->report)(['people' => [$w->people['planner']->id]]);
    $this->actingAs($w->people['planner'])->get("/watch/reports/$report->id")->assertOk();
    $this->actingAs($w->people['reader'])->get("/watch/reports/$report->id")->assertNotFound();
    expect(
        $w->refusal(KeepReport::class, ['id' => $report->id, 'name' => 'Mine', 'kind' => 'subnet'], $w->people['planner']),
    )->toBe('row-not-yours');
    $bound = $w->bound();
    expect($w->refusal(KeepReport::class, ['name' => 'x', 'kind' => 'subnet', 'people' => [$w->people['planner']->id]], $bound))
        ->toBe('not-available');
    foreach (['csv', 'json', 'pdf', 'xlsx'] as $form) {
        $answer = $this->actingAs($w->people['planner'])->get("/watch/reports/$report->id/table.$form")->assertOk();
        $body = $form === 'pdf' ? (string) $answer->getContent() : $answer->streamedContent();
        expect($body)->toContain(['pdf' => '%PDF-', 'xlsx' => 'xl/worksheets/sheet1.xml'][$form] ?? '192.0.2.0/25');
    }
});

it('refuses what is no report with the field', function (array $with, string $code): void {
    expect($this->w->refusal(KeepReport::class, $with + ['name' => 'x', 'kind' => 'subnet'], $this->w->people['operator']))->toBe($code);
})->with([
    [['name' => ' '], 'no-name'], [['where' => ['1-fact' => 'nothing']], 'no-such-fact'],
    [['where' => ['1-fact' => 'name', '1-test' => 'is', '1-value' => '']], 'value-missing'],
    [['where' => ['1-fact' => 'use', '1-test' => 'above', '1-value' => 'much']], 'no-number'],
    [['every' => 'day', 'time' => '25:00'], 'bad-timetable'], [['every' => 'day', 'zone' => 'Nowhere'], 'bad-timetable'],
    [['every' => 'week', 'day' => '9'], 'bad-timetable'],
]);

it('keeps what a table program would take for a formula as text', function (): void {
    $this->w->did(new ChangePrefix([$this->w->subnet->id], name: '=HYPERLINK("x")'));
    $report = ($this->report)(['columns' => ['name']]);
    expect(implode('', iterator_to_array(ReportRun::lines(ReportTable::of($report, Reach::whole())), false)))->toContain("'=HYPERLINK");
});

it('runs a rule about the data: what fails, since when, and what is right again', function (): void {
    $w = $this->w;
    $act = KeepAudit::fromInput([
        'name' => 'Live subnets have a gateway and a VLAN', 'kind' => 'subnet', 'where' => [
            '1-fact' => 'stage',
            '1-test' => 'is',
            '1-value' => 'live',
        ],
        'must' => ['1-fact' => 'gateway', '1-test' => 'set', '2-fact' => 'name', '2-test' => 'not', '2-value' => 'Bare'],
    ]);
    $outcome = $w->did($act);
    expect(collect($outcome->ledgers[0]->notes)->firstWhere('code', 'tried')->message)->toContain('of ');
    $audit = Audit::query()->findOrFail($act->id);
    expect(AuditTable::sentence($audit))->toBe('Of each subnet whose stage is live: gateway is there and name is not Bare.');
    $before = AuditRun::one($audit);
    $bare = $w->carve('192.0.2.192/27', ['name' => 'Bare', 'stage' => 'live']);
    $planned = $w->carve('192.0.2.224/27', ['name' => 'Later', 'stage' => 'planned']);
    expect(AuditRun::one($audit))->toBe($before + 1);
    $since = DB::table('audit_findings')->where('object_id', $bare->id)->value('since');
    expect(DB::table('audit_findings')->where('object_id', $planned->id)->exists())->toBeFalse();
    $this->travel(2)->days();
    AuditRun::one($audit);
    expect(DB::table('audit_findings')->where('object_id', $bare->id)->value('since'))->toBe($since);
    $w->did(new WaiveFinding($audit->id, $bare->id, now()->addMonth()->toDateString(), 'on its way out'));
    expect(AuditRun::one($audit))->toBe($before)
        ->and(
            $w->refusal(WaiveFinding::class, ['audit' => $audit->id, 'object' => $bare->id, 'until' => '2001-01-01', 'why' => 'x']),
        )->toBe('bad-day');
    $this->travel(2)->months();
    expect(AuditRun::one($audit))->toBe($before + 1);
    $w->did(new ChangePrefix([$bare->id], name: 'Good', gateway: '192.0.2.193'));
    expect(AuditRun::one($audit))->toBe($before)->and(DB::table('audit_findings')->where('object_id', $bare->id)->exists())->toBeFalse();
    $this->actingAs($w->people['operator'])->get("/watch/audits/$audit->id")->assertOk();
    $this->actingAs($w->people['operator'])->get('/watch/audits')->assertOk()->assertReads('gateway is there');
    expect($w->refusal(KeepAudit::class, ['name' => 'x', 'kind' => 'subnet']))->toBe('nothing-asked');
});

it('asks for one or another, and says it in a sentence', function (): void {
    $w = $this->w;
    $act = KeepAudit::fromInput([
        'name' => 'A VLAN or a word about it', 'kind' => 'subnet',
        'where' => ['1-fact' => 'stage', '1-test' => 'is', '1-value' => 'live', '2-fact' => 'stage', '2-test' => 'is',
            '2-value' => 'withheld', '2-or' => '1', '3-fact' => 'name', '3-test' => 'starts', '3-value' => 'Rule'],
        'must' => ['1-fact' => 'vlan', '1-test' => 'set', '2-fact' => 'description', '2-test' => 'contains', '2-value' => 'no VLAN',
            '2-or' => '1'],
    ]);
    $w->did($act);
    $audit = Audit::query()->findOrFail($act->id);
    expect(AuditTable::sentence($audit))->toBe('Of each subnet whose stage is live or stage is withheld, and name starts with Rule: '
        .'VLAN is there or description contains no VLAN.');
    foreach (['live' => 'Rule A', 'withheld' => 'Rule B', 'planned' => 'Rule C'] as $stage => $name) {
        $made[$name] = $w->carve('192.0.2.'.['live' => 192, 'withheld' => 208, 'planned' => 224][$stage].'/28', ['name' => $name,
            'stage' => $stage]);
    }
    $w->carve('192.0.2.240/28', ['name' => 'Other', 'stage' => 'live']);
    $failing = static fn (): array => array_values(AuditTable::of($audit, Reach::whole())
        ->titles(AuditTable::of($audit, Reach::whole())->failing()));
    expect($failing())->toBe(['192.0.2.192/28 Rule A', '192.0.2.208/28 Rule B']);
    $w->did(new ChangePrefix([$made['Rule A']->id], description: 'no VLAN, a wire of its own'));
    expect($failing())->toBe(['192.0.2.208/28 Rule B']);
    // An "or" before the first row joins nothing.
    $alone = KeepAudit::fromInput(['name' => 'Alone', 'kind' => 'subnet', 'must' => ['1-fact' => 'vlan', '1-test' => 'set',
        '1-or' => '1']]);
    $w->did($alone);
    expect(Audit::query()->findOrFail($alone->id)->must[0]['or'])->toBeFalse();
    $this->actingAs($w->people['operator'])->get("/watch/audits/write?audit=$audit->id")->assertOk()
        ->assertSee('name="must[2-or]"', false)->assertDontSee('name="must[1-or]"', false);
});

it('asks for tags and for the own fields of the team', function (): void {
    $w = $this->w;
    $name = 'Cost centre '.bin2hex(random_bytes(2));
    $w->did(App\Acts\Directory\MakeOwnField::fromInput(['name' => $name, 'kind' => 'number']));
    $field = App\Models\OwnField::query()->where('name', $name)->firstOrFail();
    app()->forgetScopedInstances();
    $w->did(ChangePrefix::fromInput(['prefixes' => [$w->subnet->id], 'tags' => '+quay, +lab', 'own' => [$field->id => '4100']]));
    $rows = function (array $where) use ($field): array {
        $report = ($this->report)(['columns' => ['prefix', 'tags', "own-$field->id"], 'where' => $where]);

        return array_map(static fn (array $r): array => array_values($r['cells']),
            iterator_to_array(ReportTable::of($report, Reach::whole())->rows(), false));
    };
    $fact = "own-$field->id";
    expect($rows(['1-fact' => $fact, '1-test' => 'above', '1-value' => '4000']))->toBe([['192.0.2.0/25', 'lab, quay', '4100']])
        ->and($rows(['1-fact' => $fact, '1-test' => 'above', '1-value' => '4100']))->toBe([])
        ->and($rows(['1-fact' => $fact, '1-test' => 'is', '1-value' => '4100', '2-fact' => 'tags', '2-test' => 'contains',
            '2-value' => 'lab']))
        ->toHaveCount(1);
    $this->actingAs($w->people['operator'])->get('/watch/audits/write?kind=subnet')->assertOk()->assertSee($name);
});

it('asks a rule of the team when somebody edits, and does not say again what was known', function (): void {
    $w = $this->w;
    ['planner' => $planner, 'operator' => $operator] = $w->people;
    $own = 'zq'.bin2hex(random_bytes(3));
    $old = $w->carve('192.0.2.192/28', ['name' => "$own old", 'stage' => 'live']);
    $rule = ['id' => (string) Illuminate\Support\Str::ulid(), 'name' => "Words of $own", 'kind' => 'subnet',
        'explanation' => 'Say what for.',
        'where' => ['1-fact' => 'name', '1-test' => 'starts', '1-value' => $own],
        'must' => ['1-fact' => 'description', '1-test' => 'set'], 'atEdit' => 'warn'];
    $w->did(KeepAudit::fromInput($rule), $planner);
    $notes = fn (App\Acts\Engine\Act ...$acts): array => array_values(array_filter(
        $w->acts()->rehearse($planner, array_values($acts))->notes(),
        static fn ($n): bool => str_starts_with($n->code, 'team-rule'),
    ));
    $carve = fn (array $with = []): App\Acts\Engine\Act => CarvePrefix::fromInput($with + ['space' => $w->space->id,
        'prefix' => '192.0.2.208/28', 'name' => "$own new"]);
    $said = $notes($carve());
    expect($said)->toHaveCount(1)->and($said[0]->warns())->toBeTrue()->and($said[0]->message)
        ->toBe("192.0.2.208/28 $own new fails \"Words of $own\"")
        ->and($said[0]->why)->toContain('Say what for.')->and($notes($carve(['description' => 'Turnstiles'])))->toBe([])
        ->and($notes($carve(['name' => 'Other'])))->toBe([]);
    $quill = $w->bound();
    $theirs = App\Models\Prefix::query()->where('tenant_id', $quill->tenant_id)->firstOrFail();
    $told = static fn (Person $to): array => array_values(array_filter(
        $w->acts()->rehearse($to, [PlaceHost::fromInput(['prefix' => $theirs->id, 'name' => 'gate'])])->notes(),
        static fn ($n): bool => $n->code === 'team-rule',
    ));
    $hosts = ['id' => (string) Illuminate\Support\Str::ulid(), 'name' => "Hosts of $own", 'kind' => 'address',
        'where' => ['1-fact' => 'subnet', '1-test' => 'set'], 'must' => ['1-fact' => 'owner', '1-test' => 'set']] + $rule;
    $w->did(KeepAudit::fromInput($hosts), $planner);
    expect($told($quill)[0]->link)->toBeNull()->and($told($planner)[0]->link)->toStartWith('/watch/audits/');
    $w->did(KeepAudit::fromInput(['off' => '1'] + $hosts), $planner);
    // What fails since the last night is known, whatever else of it is edited; it is asked of what is edited alone.
    expect($notes(new ChangePrefix([$old->id], role: 'x')))->toHaveCount(1);
    AuditRun::one(Audit::query()->findOrFail($rule['id']));
    expect($notes(new ChangePrefix([$old->id], role: 'x')))->toBe([])->and($notes(new ChangePrefix([$w->subnet->id], role: 'x')))->toBe([]);
    // A rule that warns wants a reason; one that blocks lets nothing through, the other way of doing it neither.
    expect($w->acts()->commit($planner, [$carve()])->wantsReason)->toBeTrue();
    expect($w->refusal(KeepAudit::class, ['atEdit' => 'block'] + $rule, $operator))->toBe('not-yours-to-block');
    $w->did(KeepAudit::fromInput(['atEdit' => 'block'] + $rule), $planner);
    expect($w->acts()->commit($planner, [$carve()], reason: 'because')->block()?->code)->toBe('team-rule-blocks')
        ->and($w->acts()->commit($planner, [$carve(['name' => 'Other', 'id' => $id = (string) Illuminate\Support\Str::ulid()]),
            new ChangePrefix([$id], name: "$own late")], reason: 'because')->block()?->code)->toBe('team-rule-blocks')
        ->and(App\Models\Prefix::query()->where('name', 'like', "$own n%")->exists())->toBeFalse();
    // What the application does by itself is not held up, and a rule that is off asks nobody.
    $w->did($carve());
    $w->did(KeepAudit::fromInput(['off' => '1'] + $rule), $planner);
    expect($notes($carve(['prefix' => '192.0.2.224/28'])))->toBe([]);
    $w->did(KeepAudit::fromInput(['kind' => 'address', 'where' => ['1-fact' => 'name', '1-test' => 'starts', '1-value' => $own],
        'must' => ['1-fact' => 'owner', '1-test' => 'set']] + $rule), $planner);
    $place = static fn (int $n): App\Acts\Engine\Act => App\Acts\Plan\PlaceSeveral::fromInput(['prefix' => $w->subnet->id,
        'names' => "$own-{n}", 'count' => (string) $n]);
    expect($notes($place(3))[0]->message)->toBe("192.0.2.2 $own-1, 192.0.2.3 $own-2, 192.0.2.4 $own-3 fail \"Words of $own\"")
        ->and($notes($place(9))[0]->message)->toContain('and 4 more fail');
});

it('lets nobody go around a rule that blocks: not by disarming it, not by mending and breaking, not by very many at once',
    function (): void {
        $w = $this->w;
        ['planner' => $planner, 'operator' => $operator] = $w->people;
        $own = 'zq'.bin2hex(random_bytes(3));
        $rule = ['id' => (string) Illuminate\Support\Str::ulid(), 'name' => "Owners of $own", 'kind' => 'address', 'atEdit' => 'block',
            'where' => ['1-fact' => 'name', '1-test' => 'starts', '1-value' => $own], 'must' => ['1-fact' => 'owner', '1-test' => 'set']];
        $w->did(PlaceHost::fromInput(['prefix' => $w->subnet->id, 'name' => "$own-old", 'address' => '192.0.2.9']));
        $w->did(KeepAudit::fromInput($rule), $planner);
        AuditRun::one(Audit::query()->findOrFail($rule['id']));
        $failing = static fn (): int => (int) DB::table('audits')->where('id', $rule['id'])->value('failing');
        $host = App\Models\Host::query()->where('name', "$own-old")->firstOrFail();
        $code = fn (App\Acts\Engine\Act $act): ?string => $w->acts()->commit($operator, [$act], reason: 'because')->block()?->code;
        $change = static fn (array $with): App\Acts\Engine\Act => App\Acts\Plan\ChangeHost::fromInput(['host' => $host->id] + $with);
        // It failed before: it may be edited, and be mended; mended it does not fail again.
        expect($failing())->toBe(1)->and($code($change(['description' => 'x'])))->toBeNull()
            ->and($code($change(['owner' => 'Crew'])))->toBeNull()->and($failing())->toBe(0)
            ->and($code($change(['owner' => '-'])) ?? $code($change(['owner' => ''])))->toBe('team-rule-blocks')
            ->and($host->refresh()->owner)->toBe('Crew');
        // A rehearsal mends nothing.
        DB::table('audit_findings')->insert(['audit_id' => $rule['id'], 'object_id' => $host->id, 'title' => 'x', 'since' => now()]);
        $w->acts()->rehearse($operator, [$change(['description' => 'y'])]);
        expect(DB::table('audit_findings')->where('audit_id', $rule['id'])->count())->toBe(1);
        // Who may not make it block may not stop it either.
        foreach ([['atEdit' => 'warn'], ['off' => '1'], ['must' => ['1-fact' => 'name', '1-test' => 'set']]] as $disarmed) {
            expect($w->refusal(KeepAudit::class, $disarmed + $rule, $operator))->toBe('not-yours-to-block');
        }
        expect($w->refusal(App\Acts\Watch\RemoveAudit::class, ['audit' => $rule['id']], $operator))->toBe('not-yours-to-block')
            ->and($w->refusal(App\Acts\Watch\RemoveAudit::class, ['audit' => $rule['id']], $planner))->toBeNull();
        // What is written without being listed is not let through unseen.
        $many = new WritesVeryMany($w->subnet->id, $w->space->id, $own);
        expect($code($many))->toBe('team-rule-too-many');
        $w->did(KeepAudit::fromInput(['atEdit' => 'warn'] + $rule), $planner);
        $outcome = $w->acts()->rehearse($operator, [$many]);
        expect($outcome->block())->toBeNull()->and(json_encode($outcome->ledgers[0]->later))->toContain('they are too many now');
    });

it('asks rules of what a row belonged to: a subnet that loses its scope, a VLAN that a subnet leaves', function (): void {
    $w = $this->w;
    $planner = $w->people['planner'];
    $rule = static fn (string $kind, string $fact, string $test, string $value = ''): App\Acts\Engine\Act => KeepAudit::fromInput([
        'name' => "$kind $fact ".bin2hex(random_bytes(2)), 'kind' => $kind, 'atEdit' => 'warn',
        'must' => ['1-fact' => $fact, '1-test' => $test, '1-value' => $value],
    ]);
    $said = fn (App\Acts\Engine\Act $act): array => array_values(array_filter(
        array_column($w->acts()->rehearse($planner, [$act])->notes(), 'message', 'code'),
        static fn (string $code): bool => $code === 'team-rule',
        ARRAY_FILTER_USE_KEY,
    ));
    $domain = App\Acts\Directory\MakeDomain::fromInput(['name' => 'Hall '.bin2hex(random_bytes(3))]);
    $w->did($domain);
    $vlan = App\Acts\Directory\MakeVlan::fromInput(['number' => '110', 'name' => 'GATES', 'domain' => $domain->id]);
    $w->did($vlan);
    $id = App\Models\Vlan::query()->where('domain_id', $domain->id)->firstOrFail()->id;
    $w->did(ChangePrefix::fromInput(['prefixes' => [$w->subnet->id], 'vlan' => $id]));
    $w->did($rule('subnet', 'scope', 'set'), $planner);
    $w->did($rule('vlan', 'subnets', 'above', '0'), $planner);
    expect($said(App\Acts\Lease\RemoveScope::fromInput(['scope' => $w->scope->id]))[0] ?? '')->toContain('192.0.2.0/25 Ticketing fails')
        ->and($said(ChangePrefix::fromInput(['prefixes' => [$w->subnet->id], 'vlan' => '-']))[0] ?? '')->toContain('GATES fails');
});
