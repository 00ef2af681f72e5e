<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeServer;
use App\Acts\Directory\MakeServer;
use App\Acts\Watch\KeepFigures;
use App\Acts\Watch\KeepThreshold;
use App\Acts\Watch\MeasureServers;
use App\Acts\Watch\RemoveThreshold;
use App\Console\FiguresRead;
use App\Domain\Watch\Folding;
use App\Domain\Watch\NoticeLook;
use App\Models\Notice;
use App\Models\Server;
use App\Models\Threshold;
use App\Queries\Figures;
use App\View\Chart;
use HarborPost\Core\Measure\Sample;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Tests\Standins;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make(false);
    $this->ns1 = $this->w->servers['ns1'];
    // A clock that stands, at ten seconds past: what lies a minute apart lies just a minute apart.
    $this->still = fn () => $this->travelTo(now()->startOfMinute()->addSeconds(10));
    $this->keep = fn (string $text) => $this->w->acts()->commit(null, [FiguresRead::judged($this->ns1, $text)]);
    $this->series = fn (string $family): array => DB::table('samples')->join('series', 'series.id', '=', 'samples.series_id')
        ->where('server_id', $this->ns1)->where('family', $family)->where('step', 1)
        ->orderBy('samples.at')->pluck('mean')->map(floatval(...))->all();
    $this->state = fn (string $server): string => collect(Figures::coverage())
        ->first(fn (array $c): bool => $c['server']->id === $server)['state'];
});

it('keeps counters by the second, over a restart of the server, and gauges as they are', function (): void {
    ($this->still)();
    $text = fn (int $queries, int $zones): string => "# TYPE q counter\nq_total $queries\n# TYPE z gauge\nz $zones\n# EOF\n";
    ($this->keep)($text(1000, 5));
    expect(($this->series)('q'))->toBe([])->and(($this->series)('z'))->toBe([5.0]);
    $this->travel(60)->seconds();
    ($this->keep)($text(1120, 6));
    $this->travel(60)->seconds();
    ($this->keep)($text(30, 7));
    expect(($this->series)('q'))->toBe([2.0, 0.5])->and(($this->series)('z'))->toBe([5.0, 6.0, 7.0]);
    // Read twice in one minute, it is one sample.
    ($this->keep)($text(31, 8));
    expect(($this->series)('z'))->toBe([5.0, 6.0, 8.0]);
});

it('says what a server measures now, and of what was told earlier that it is not so now', function (): void {
    ($this->still)();
    $text = fn (int $leases, string $failures): string => "# TYPE dhcp_leases gauge\ndhcp_leases $leases\n# TYPE dns_queries counter\n"
        ."dns_queries_total $leases\n# TYPE dns_answers counter\n$failures# EOF\n";
    foreach ([100, 160] as $n) {
        ($this->keep)($text($n, "dns_answers_total{code=\"ServFail\"} $n\n"));
        $this->travel(60)->seconds();
    }
    $now = fn (string $figure): ?float => Figures::overview()[$this->ns1][$figure]['now'];
    expect($now('dns_queries'))->toBe(1.0)->and($now('dns_failures'))->toBe(1.0);
    // It is read on, and tells nothing of failures any more.
    foreach (range(3, 9) as $n) {
        ($this->keep)($text(100 + 60 * $n, ''));
        $this->travel(60)->seconds();
    }
    expect($now('dns_failures'))->toBeNull()->and($now('dhcp_leases'))->not->toBeNull()
        ->and(count(Figures::overview()[$this->ns1]['dns_failures']['line']))->toBeGreaterThan(0);
    $this->actingAs($this->w->people['reader'])->get('/watch/servers')->assertOk()->assertSee('<span class="open">not now</span>', false);
    $this->travel(2)->hours();
    expect($now('dhcp_leases'))->toBeNull();
});

it('says of each server whether it is measured, and why not', function (): void {
    Server::query()->getQuery()->update(['metrics' => null]);
    expect(($this->state)($this->ns1))->toBe('none');
    $this->w->did(ChangeServer::fromInput(['server' => $this->ns1, 'metrics' => 'https://ns1.example/metrics']));
    expect(($this->state)($this->ns1))->toBe('new');
    ($this->keep)("a 1\n# EOF\n");
    expect(($this->state)($this->ns1))->toBe('read');
    $this->travel(9)->minutes();
    expect(($this->state)($this->ns1))->toBe('late');
    $this->w->acts()->commit(null, [new KeepFigures($this->ns1, [], 'nobody listens there')]);
    expect(($this->state)($this->ns1))->toBe('problem');
    ($this->keep)("a 2\n# EOF\n");
    expect(($this->state)($this->ns1))->toBe('read');
    $this->w->did(MeasureServers::fromInput(['servers' => [$this->ns1], 'measured' => 'no', 'why' => 'is replaced']));
    expect(($this->state)($this->ns1))->toBe('off');
    $this->actingAs($this->w->people['reader'])->get('/watch/servers')->assertOk()->assertReads('left out: is replaced');
    $refusal = fn (array $input): ?string => $this->w->refusal(MeasureServers::class, $input);
    expect($refusal(['servers' => [$this->ns1], 'measured' => 'no']))->toBe('no-reason')
        ->and($refusal(['servers' => []]))->toBe('nothing-chosen');
    $at = fn (string $metrics): ?string => $this->w->refusal(ChangeServer::class, ['server' => $this->ns1, 'metrics' => $metrics]);
    expect($at('ftp://x/metrics'))->toBe('bad-figures')->and($at('https://a:b@x/'))->toBe('bad-figures')->and($at('x'))->toBe('bad-figures')
        ->and($at('control'))->toBeNull()
        ->and($this->w->refusal(ChangeServer::class, ['server' => $this->ns1, 'metrics' => 'control'], $this->w->people['operator']))
        ->toBe('not-allowed');
});

it('keeps what it understands of hostile texts, and says what not', function (): void {
    ($this->keep)('<html>');
    expect(($this->state)($this->ns1))->not->toBe('read')
        ->and(DB::table('server_states')->where('server_id', $this->ns1)->value('figures_problem'))->toContain('line 1');
    ($this->keep)(str_repeat("x NaN\n", 9));
    expect(DB::table('server_states')->where('server_id', $this->ns1)->value('figures_problem'))->toContain('none of its 9 figures');
    $many = '';
    for ($i = 0; $i < 500; $i++) {
        $many .= "m{i=\"$i\"} $i\n";
    }
    ($this->keep)($many.'n{x="'.str_repeat('y', 400)."\"} 1\nm{i=\"1\"} 7\n");
    expect(DB::table('series')->where('server_id', $this->ns1)->count())->toBe(KeepFigures::MOST)
        ->and((int) DB::table('server_states')->where('server_id', $this->ns1)->value('figures_left'))->toBeGreaterThan(200);
});

it('folds minutes to five, hours and days, without a clock of summer in it, and lets go of what is old', function (): void {
    ($this->keep)("g 0\n# EOF\n");
    $id = (int) DB::table('series')->value('id');
    DB::table('samples')->delete();
    $now = new DateTimeImmutable('2026-10-26 00:00:30 UTC'); // summer time ended the night before
    $rows = [];
    for ($at = strtotime('2026-10-24 23:00 UTC'); $at < strtotime('2026-10-26 00:00 UTC'); $at += 60) {
        $hour = intdiv($at, 3600) % 24;
        $rows[] = ['series_id' => $id, 'step' => 1, 'at' => gmdate('Y-m-d H:i:s', $at), 'low' => 1, 'mean' => $hour, 'high' => 99];
    }
    foreach (array_chunk($rows, 500) as $chunk) {
        DB::table('samples')->insert($chunk);
    }
    Folding::run($now);
    $of = fn (int $step) => DB::table('samples')->where('step', $step)->orderBy('at')->get();
    expect($of(5))->toHaveCount(300)->and($of(60))->toHaveCount(25)->and($of(1440)->pluck('at')->all())
        ->toBe(['2026-10-24 00:00:00', '2026-10-25 00:00:00'])
        ->and((float) $of(60)->last()->mean)->toBe(23.0)->and((float) $of(1440)->last()->mean)->toBe(11.5)
        ->and((float) $of(1440)->last()->high)->toBe(99.0);
    expect(array_sum(Folding::run($now)))->toBe(0);
    Folding::run($now->modify('+3 days'));
    expect($of(1))->toHaveCount(0)->and($of(5))->toHaveCount(300);
    Folding::run($now->modify('+40 days'));
    expect($of(5))->toHaveCount(0)->and($of(60))->toHaveCount(25);
});

it('draws the course of a figure with a gap where nothing was read, and gives it as a file', function (): void {
    ($this->still)();
    foreach ([1, 2, null, null, null, 5, 6] as $v) {
        $v === null ?: ($this->keep)("# TYPE g gauge\ng{l=\"a,b\"} $v\n# EOF\n");
        $this->travel(60)->seconds();
    }
    $course = Figures::course($this->ns1, 'g', 'hours');
    expect($course['lines'])->toHaveCount(1)->and(array_column($course['lines'][0]['points'], 'mean'))->toBe([1.0, 2.0, 5.0, 6.0]);
    $svg = (string) Chart::of($course, 'g', [4.0], [['at' => $course['to'] - 60, 'words' => '<b>']]);
    expect(substr_count((string) preg_replace('/.*class="course c0" d="([^"]*)".*/s', '$1', $svg), 'M'))->toBe(2)
        ->and($svg)->toContain('class="limit"')->not->toContain('<b>');
    $this->actingAs($this->w->people['reader']);
    $this->get("/watch/servers/{$this->ns1}?span=hours")->assertOk()->assertReads('l=a,b')->assertSee('class="chart"', false);
    $this->get("/watch/servers/{$this->ns1}?span=century")->assertOk();
    $file = $this->get("/watch/servers/{$this->ns1}/figures.csv?family=g&span=hours")->assertOk()->streamedContent();
    expect($file)->toContain('"l=a,b",1,1,1');
    $this->get("/watch/servers/{$this->w->servers['ns2']}")->assertOk()->assertSee('Nothing was measured yet');
    $this->actingAs($this->w->bound())->get('/watch/servers')->assertForbidden();
});

it('tells when a figure is beyond its threshold long enough, and only while it is read', function (): void {
    ($this->still)();
    $this->w->did(ChangeServer::fromInput(['server' => $this->ns1, 'metrics' => 'https://ns1.example/metrics']));
    ($this->keep)("load{cpu=\"0\"} 9\n# EOF\n");
    $set = fn (array $more) => $this->w->refusal(KeepThreshold::class, $more + ['family' => 'load', 'value' => '5', 'minutes' => 4]);
    expect($set(['family' => 'nothing']))->toBe('no-figure')->and($set(['value' => 'much']))->toBe('no-number');
    $this->w->did(KeepThreshold::fromInput(['family' => 'load', 'value' => '5', 'minutes' => 4]));
    $told = fn (): int => Notice::open()->where('kind', 'figure')->count();
    NoticeLook::now();
    expect($told())->toBe(0);
    foreach ([9, 8, 7, 9] as $v) {
        $this->travel(60)->seconds();
        ($this->keep)("load{cpu=\"0\"} $v\n# EOF\n");
    }
    NoticeLook::now();
    expect($told())->toBe(1)->and(Notice::open()->where('kind', 'figure')->sole()->title)->toContain('load cpu=0 is 8');
    $this->travel(60)->seconds();
    ($this->keep)("load{cpu=\"0\"} 1\n# EOF\n");
    NoticeLook::now();
    expect($told())->toBe(0);
    $this->w->did(new RemoveThreshold(Threshold::query()->sole()->id));
    expect(Threshold::query()->count())->toBe(0);
});

it('reads the figures of a real stand-in, and names what hinders it', function (): void {
    $standins = new Standins(['lamp' => 'dns']);
    $make = MakeServer::fromInput([
        'name' => 'lamp-'.bin2hex(random_bytes(3)), 'kind' => 'dns', 'endpoint' => $standins->endpoint('lamp'),
        'control' => '127.0.0.1:'.$standins->settings['lamp']['control'], 'token' => 'secret', 'metrics' => 'control',
    ]);
    $this->w->did($make);
    $server = Server::query()->findOrFail($make->id);
    $read = fn () => Artisan::call('figures:read', ['server' => $server->name]);
    $says = fn () => collect(Figures::coverage())->first(fn (array $c): bool => $c['server']->id === $server->id)['says'];
    $read();
    expect(DB::table('series')->where('server_id', $server->id)->where('family', 'dns_zones')->exists())->toBeTrue($says());
    foreach (['wrong' => 'NaN', 'refusing' => 'answers 503'] as $mode => $words) {
        $standins->tell('lamp', 'mode', ['mode' => $mode]);
        $read();
        expect($says())->toContain($mode === 'wrong' ? 'is a number' : $words);
    }
    $standins->tell('lamp', 'mode', ['mode' => 'normal']);
    // The token is told to the control endpoint alone, not to an address that somebody wrote there, were it the same.
    DB::table('servers')->where('id', $server->id)->update(['metrics' => $server->figuresAt()]);
    $read();
    expect($says())->toBe('it wants a sign-in (401), and is told none');
    DB::table('servers')->where('id', $server->id)->update(['metrics' => Server::AT_CONTROL, 'token' => encrypt('other', false)]);
    $read();
    expect($says())->toContain('refuses the token');
    $standins->kill('lamp');
    $read();
    expect($says())->toBe('nobody listens there')->and((new Sample('x', Sample::GAUGE, [], 1.0))->key())->toBe('');
});
