<?php

declare(strict_types=1);

use App\Acts\Lease\AddReservation;
use App\Acts\Name\AddRecord;
use App\Acts\Plan\PlaceHost;
use App\Models\Host;
use App\Models\Record;
use App\Queries\Invariants;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Tests\Engine\FaultyPdo;
use Tests\World;

/** Nothing here runs inside a transaction of the test: what is written stays until the database is made anew. */
afterEach(fn () => Artisan::call('migrate:fresh', ['--force' => true]));

function strike(string $stage, int $code, int $nth = 1): FaultyPdo
{
    $c = config('database.connections.mariadb');
    $pdo = new FaultyPdo(
        "mysql:host={$c['host']};port={$c['port']};dbname={$c['database']};charset=utf8mb4",
        $c['username'],
        $c['password'],
        $stage,
        $code,
        $nth,
    );
    DB::purge();
    DB::connection()->setPdo($pdo);

    return $pdo;
}

/** @return array<string, mixed> a placed host with its name, and the record of its own act: what one commit writes */
function place(World $w, string $name): array
{
    return ['prefix' => $w->subnet->id, 'name' => $name, 'zone' => $w->zone->id, 'ptr' => '1'];
}

it('writes an act once and whole, or not at all, whatever the database does', function (): void {
    $w = World::make(false);
    config(['harbor.acts.patience' => 1.5]);
    $said = [];
    $cases = [];
    $faults = ['write' => [0, 1213, 1205, 1062, 1047, 2006, 1114], 'commit' => [0, 1213, 1047, 2006], 'committed' => [2006]];
    foreach ($faults as $stage => $codes) {
        foreach ($codes as $code) {
            foreach ($stage === 'write' ? [1, 2, 4] : [1] as $nth) {
                $cases[] = [$stage, $code, $nth];
            }
        }
    }
    foreach ($cases as $n => [$stage, $code, $nth]) {
        $pdo = strike($stage, $code, $nth);
        $thrown = $outcome = null;
        try {
            $outcome = $w->acts()->commit($w->people['operator'], [PlaceHost::fromInput(place($w, "till-$n"))], reason: 'tried');
        } catch (\PDOException $e) {
            $thrown = $e;
        }
        DB::purge();
        $hosts = Host::query()->where('prefix_id', $w->subnet->id)->where('name', 'like', "till-$n.%")->count();
        $records = Record::query()->where('owner', "till-$n.{$w->zone->name}")->count();
        $pointers = Record::query()->where('zone_id', $w->reverse->id)->where('target', "till-$n.{$w->zone->name}")->count();
        $history = DB::table('history')->where('object_type', 'address')->where('title', 'like', "%till-$n.%")->count();
        $case = "$stage $code at $nth";
        expect($pdo->struck)->toBeTrue("$case was reached");
        expect([$hosts, $records, $pointers])->toBeIn([[0, 0, 0], [1, 1, 1]], "$case: all of it or none of it");
        expect($history)->toBe($hosts, "$case: history says what was written");
        // What is said of it is so.
        $told = $thrown === null && ! $outcome->blocked() && $outcome->committed;
        $told === ($hosts === 1) ?: $said[] = "$case: said ".($told ? 'written' : 'not written').", is $hosts";
        // The connection afterwards is outside any transaction.
        expect(DB::transactionLevel())->toBe(0);
    }
    expect($said)->toBe([]);
    foreach (Invariants::all() as $sentence => $broken) {
        expect($broken['count'])->toBe(0, "$sentence: ".implode(', ', $broken['some']));
    }
});

it('begins anew where another node takes over, and writes once', function (string $stage, int $code): void {
    $w = World::make(false);
    config(['harbor.acts.take_over' => 4.0]);
    $pdo = strike($stage, $code);
    $outcome = $w->acts()->commit($w->people['operator'], [PlaceHost::fromInput(place($w, 'till-t'))], reason: 'tried');
    DB::purge();
    expect($pdo->struck)->toBeTrue()->and($outcome->committed)->toBeTrue()
        ->and(Host::query()->where('prefix_id', $w->subnet->id)->where('name', 'like', 'till-t.%')->count())->toBe(1)
        ->and(DB::table('history')->where('object_type', 'address')->where('title', 'like', '%till-t.%')->count())->toBe(1);
})->with([['write', 1047], ['write', 2006], ['commit', 2006], ['commit', 1047], ['committed', 2006]]);

it('begins anew what stands in a transaction beside acts, and never what may be written already', function (): void {
    World::make(false);
    config(['harbor.acts.take_over' => 3.0]);
    $count = fn (): int => DB::transaction(function (): int {
        DB::table('tallies')->insertOrIgnore(['machine' => 'm', 'family' => 'f', 'label' => 'l', 'n' => 0]);
        DB::table('tallies')->where('machine', 'm')->increment('n');

        return (int) DB::table('tallies')->where('machine', 'm')->value('n');
    });
    strike('write', 2006, 2);
    expect($count())->toBe(1)->and(DB::transactionLevel())->toBe(0);
    DB::purge();
    expect(DB::table('tallies')->where('machine', 'm')->value('n'))->toBe(1.0);
    // No answer to its commit: it was written, and is not written twice.
    strike('committed', 2006);
    expect($count)->toThrow(PDOException::class);
    DB::purge();
    expect(DB::table('tallies')->where('machine', 'm')->value('n'))->toBe(2.0);
});

it('counts for throttling whatever the database does, and refuses nobody for it', function (): void {
    World::make(false);
    config(['harbor.acts.take_over' => 3.0]);
    $store = Illuminate\Support\Facades\Cache::store('database');
    expect($store->getStore())->toBeInstanceOf(App\Database\PatientCache::class);
    $store->put('trial-count', 1, 60);
    foreach ([['write', 2006], ['commit', 2006], ['committed', 2006]] as [$stage, $code]) {
        $before = (int) $store->get('trial-count');
        $pdo = strike($stage, $code);
        $store->getStore()->setConnection(DB::connection());
        expect($store->increment('trial-count'))->toBeGreaterThan($before)->and($pdo->struck)->toBeTrue();
        DB::purge();
        $store->getStore()->setConnection(DB::connection());
    }
});

it('lets nothing be committed any more of which it said that it was not', function (): void {
    $w = World::make(false);
    config(['harbor.acts.patience' => 0.5]);
    // Its commit is cut off, and its transaction still stands on a node that nobody reaches.
    strike('commit', 2006);
    $said = $w->acts()->commit($w->people['operator'], [PlaceHost::fromInput(place($w, 'till-c'))], reason: 'tried');
    DB::purge();
    expect($said->committed)->toBeFalse()->and($said->trouble)->toContain('Nothing of yours was written');
    $number = (string) DB::table('attempts')->orderByDesc('id')->value('id');
    expect(DB::table('attempts')->where('id', $number)->value('taken'))->not->toBeNull();
    expect(fn () => DB::table('attempts')->insert(['id' => $number, 'at' => now()]))
        ->toThrow(Illuminate\Database\UniqueConstraintViolationException::class);
});

it('does not take its own question for the answer, when the answer to that was lost too', function (): void {
    $w = World::make(false);
    config(['harbor.acts.patience' => 1.0]);
    strike('commit', 2006);
    // The number is taken away, the answer to that gets lost, and the statement is sent again.
    $asked = 0;
    DB::listen(function ($query) use (&$asked): void {
        if (str_contains($query->sql, 'insert ignore into `attempts`') && ++$asked === 1) {
            throw new PDOException('Lost connection to server during query');
        }
    });
    $said = $w->acts()->commit($w->people['operator'], [PlaceHost::fromInput(place($w, 'till-l'))], reason: 'tried');
    DB::purge();
    expect($asked)->toBe(2)->and($said->committed)->toBeFalse()->and($said->trouble)->toContain('Nothing of yours was written')
        ->and(Host::query()->where('prefix_id', $w->subnet->id)->where('name', 'like', 'till-l.%')->exists())->toBeFalse();
});

it('has one worker of a queue on all machines, and the next takes over with what was begun', function (): void {
    World::make(false);
    config(['queue.default' => 'database']);
    $start = fn (string $machine) => proc_open(
        [PHP_BINARY, 'artisan', 'work', 'trial-queue'],
        [['file', '/dev/null', 'r'], ['file', '/dev/null', 'w'], ['file', '/dev/null', 'w']],
        $pipes, base_path(), ['HPOST_INSTANCE' => 'test', 'HARBOR_MACHINE' => $machine] + getenv(),
    );
    $until = function (Closure $holds): bool {
        for ($end = microtime(true) + 20; microtime(true) < $end; usleep(100_000)) {
            if ($holds()) {
                return true;
            }
        }

        return false;
    };
    $holder = fn (): ?string => DB::table('duties')->where('name', 'trial-queue')->value('machine');
    $children = fn (int $pid): array => array_filter(explode(' ', trim((string) @file_get_contents("/proc/$pid/task/$pid/children"))));
    $one = $start('one');
    expect($until(fn (): bool => $holder() === 'one'))->toBeTrue();
    $two = $start('two');
    $pid = proc_get_status($one)['pid'];
    expect($until(fn (): bool => $children($pid) !== []))->toBeTrue();
    $worker = (int) array_values($children($pid))[0];
    // A job that the first had begun when its machine went.
    DB::table('jobs')->insert([
        'queue' => 'trial-queue', 'payload' => '{}', 'attempts' => 1, 'reserved_at' => time(), 'available_at' => time() + 3600,
        'created_at' => time(),
    ]);
    expect($holder())->toBe('one');
    posix_kill($pid, SIGKILL);
    expect($until(fn (): bool => ! is_dir("/proc/$worker") || str_contains((string) @file_get_contents("/proc/$worker/stat"), ') Z ')))
        ->toBeTrue('its worker ends with it');
    DB::table('duties')->where('name', 'trial-queue')->update(['until' => DB::raw('UTC_TIMESTAMP(3) - INTERVAL 1 SECOND')]);
    expect($until(fn (): bool => $holder() === 'two'))->toBeTrue()
        ->and($until(fn (): bool => DB::table('jobs')->where('queue', 'trial-queue')->value('reserved_at') === null))->toBeTrue();
    posix_kill(proc_get_status($two)['pid'], SIGTERM);
    expect($until(fn (): bool => ! proc_get_status($two)['running']))->toBeTrue()->and($holder())->toBeNull('it leaves in order');
    proc_close($one);
    proc_close($two);
});

it('leaves nothing of a rehearsal behind when it cannot be rolled back', function (int $code): void {
    $w = World::make(false);
    strike('rollback', $code);
    $outcome = $w->acts()->rehearse($w->people['operator'], [PlaceHost::fromInput(place($w, 'till-r'))]);
    expect($outcome->blocked())->toBeFalse()->and(DB::transactionLevel())->toBe(0)
        ->and(Host::query()->where('prefix_id', $w->subnet->id)->count())->toBe(0);
    DB::purge();
    expect(Host::query()->where('prefix_id', $w->subnet->id)->count())->toBe(0);
    // The next act on the same worker is whole.
    expect($w->did(PlaceHost::fromInput(place($w, 'till-n')))->committed)->toBeTrue();
})->with([2006, 1213, 1047]);

it('holds when many write at once', function (): void {
    $w = World::make();
    $go = sys_get_temp_dir().'/hpost-go-'.bin2hex(random_bytes(4));
    $script = 'require "vendor/autoload.php"; $a = require "bootstrap/app.php";
        $a->make(Illuminate\Contracts\Console\Kernel::class)->bootstrap();
    $jobs = json_decode($argv[2], true); while (! is_file($argv[1])) { usleep(500); clearstatcache(); }
    foreach ($jobs as [$class, $input, $expects]) {
        try { $o = app(App\Acts\Engine\Acts::class)->commit(null, [$class::fromInput($input)], $expects === null ? [] : [$expects]);
        echo $o->committed ? "done" : "blocked", "\n"; }
        catch (Throwable $e) { echo "threw ", get_class($e), " ", str_replace("\n", " ", $e->getMessage()), "\n"; } }';
    $record = fn (string $type, string $data): array => [
        AddRecord::class,
        ['zone' => $w->zone->id, 'name' => 'contested', 'type' => $type, 'data' => $data],
        null,
    ];
    $hold = fn (string $range): array => [
        \App\Acts\Plan\HoldRun::class,
        ['prefix' => $w->subnet->id, 'range' => $range, 'why' => 'tills'],
        null,
    ];
    $seen = ['prefix:'.$w->subnet->id => $w->subnet->refresh()->version];
    $lots = [];
    foreach (range(0, 5) as $i) {
        $lots[] = [
            $record($i % 2 === 0 ? 'CNAME' : 'A', $i % 2 === 0 ? "target-$i" : "192.0.2.$i"),
            $hold('192.0.2.'.(20 + $i).'-192.0.2.'.(26 + $i)),
            [\App\Acts\Plan\ChangePrefix::class, ['prefixes' => [$w->subnet->id], 'description' => "by $i"], $seen],
            [AddReservation::class, ['scope' => $w->scope->id, 'address' => '192.0.2.70', 'mac' => "02:00:5e:00:00:0$i"], null],
            [\App\Acts\Name\GrantName::class, ['zone' => $w->zone->id, 'person' => $w->people['reader']->id, 'name' => 'shared'], null],
            [PlaceHost::class, ['prefix' => $w->subnet->id, 'address' => '192.0.2.9'], null],
        ];
    }
    $running = $pipes = $said = [];
    foreach ($lots as $i => $lot) {
        $running[] = proc_open(
            [PHP_BINARY, '-r', $script, '--', $go, json_encode($lot)],
            [1 => ['pipe', 'w'], 2 => ['file', '/dev/null', 'w']],
            $pipes[$i],
            base_path(),
            ['HPOST_INSTANCE' => 'test'] + getenv(),
        );
    }
    usleep(1_500_000);
    touch($go);
    foreach ($running as $i => $process) {
        $said[$i] = explode("\n", trim((string) stream_get_contents($pipes[$i][1])));
        proc_close($process);
    }
    unlink($go);
    expect(array_filter(array_merge(...$said), fn (string $s): bool => ! in_array($s, ['done', 'blocked'], true)))->toBe([]);
    $done = fn (int $job): int => count(array_filter($said, fn (array $s): bool => $s[$job] === 'done'));
    $types = Record::query()->where('zone_id', $w->zone->id)->where('owner', "contested.{$w->zone->name}")->pluck('type')->countBy();
    expect(($types[5] ?? 0) === 0 || $types->all() === [5 => 1])->toBeTrue('an alias stands alone');
    expect($done(2))->toBe(1, 'one commit a version')->and($done(3))->toBe(1, 'one client an address')->and($done(4))
        ->toBe(1, 'one right, once')->and($done(5))->toBe(1, 'one host an address')
        ->and(Host::query()->where('prefix_id', $w->subnet->id)->count())->toBe(1);
    foreach (Invariants::all() as $sentence => $broken) {
        expect($broken['count'])->toBe(0, "$sentence: ".implode(', ', $broken['some']));
    }
});
