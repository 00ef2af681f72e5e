<?php

declare(strict_types=1);

/*
 * run.php ROOM COUNT SEED [LANE]: a seeded sample of mutants of a room (core, acts, or a folder), in two lanes at once; each lane is a
 * copy of the tree. Ends with the share that the tests noticed, and the ones that they did not.
 */

use HarborPost\Launcher\Instance;
use Tests\Mutation\Bench;
use Tests\Mutation\Mutants;

require __DIR__.'/../../vendor/autoload.php';
require __DIR__.'/Mutants.php';
require __DIR__.'/Bench.php';
spl_autoload_register(static function (string $class): void {
    $file = __DIR__.'/../../launcher/'.basename(str_replace('\\', '/', $class)).'.php';
    is_file($file) && str_starts_with($class, 'HarborPost\\Launcher\\') && require $file;
});

const LANES = 2;
const ROOMS = ['core' => 'core', 'acts' => 'app/Acts'];

[, $room, $count, $seed, $lane] = $argv + ['', 'core', '200', '1', ''];
$root = dirname(__DIR__, 2);
$folder = "$root/var/mutants";

if ($lane !== '') {
    $copy = "$folder/lane-$lane";
    $env = ['TEST_TOKEN' => ''];
    if (str_starts_with(ROOMS[$room] ?? $room, 'app')) {
        $instance = new Instance($copy, 'test');
        $instance->clear(false);
        $instance->writeSettings([
            'APP_ENV' => 'testing', 'BCRYPT_ROUNDS' => '4', 'SESSION_DRIVER' => 'array', 'CACHE_STORE' => 'array',
            'QUEUE_CONNECTION' => 'sync', 'HARBOR_DEMO' => 'false',
        ]);
        $instance->startDatabase(['--innodb-flush-log-at-trx-commit=0'], whole: true);
        $instance->artisan(['migrate:fresh', '--force']);
        $env += $instance->env() + ['APP_ENV' => 'testing'];
    }
    $bench = new Bench($copy, $env);
    foreach (json_decode((string) file_get_contents("$folder/jobs-$lane.json"), true) as $mutant) {
        $start = microtime(true);
        $verdict = $bench->put($mutant);
        echo json_encode(['verdict' => $verdict, 'seconds' => round(microtime(true) - $start, 1)] + $mutant), "\n";
    }
    isset($instance) && $instance->stop();
    exit(0);
}

$files = [];
exec('cd '.escapeshellarg($root).' && git ls-files '.escapeshellarg(ROOMS[$room] ?? $room), $files);
$all = [];
foreach ($files as $file) {
    array_push($all, ...(str_ends_with($file, '.php') ? Mutants::of($root, $file) : []));
}
mt_srand((int) $seed);
shuffle($all);
$sample = array_slice($all, 0, (int) $count);
is_dir($folder) || mkdir($folder, 0700, true);
$processes = [];
for ($i = 1; $i <= LANES; $i++) {
    $copy = "$folder/lane-$i";
    exec('rm -rf '.escapeshellarg($copy).' && mkdir -p '.escapeshellarg($copy));
    // Sources are copied, so that the tree may be worked on meanwhile; packages are shared.
    exec('cd '.escapeshellarg($root).' && git ls-files -z | tar --null -T - -cf - | tar -xf - -C '
        .escapeshellarg($copy).' && cp -al vendor '
        .escapeshellarg($copy).'/ && mkdir -p '
        .escapeshellarg("$copy/var").' && cp -al public/build '.escapeshellarg("$copy/public/").' 2>/dev/null');
    file_put_contents("$folder/jobs-$i.json", json_encode(array_values(array_filter(
        $sample,
        static fn (int $n): bool => $n % LANES === $i - 1,
        ARRAY_FILTER_USE_KEY,
    ))));
    $processes[] = proc_open([PHP_BINARY, __FILE__, $room, $count, $seed, (string) $i], [1 => ['pipe', 'w']], $pipes);
    $outputs[] = $pipes[1];
}
$verdicts = ['noticed' => 0, 'survived' => 0, 'untested' => 0];
$left = $outputs;
while ($left !== []) {
    $ready = $left;
    $none = null;
    stream_select($ready, $none, $none, 5);
    foreach ($ready as $pipe) {
        $line = fgets($pipe);
        if ($line === false) {
            $left = array_filter($left, static fn ($p): bool => $p !== $pipe);

            continue;
        }
        $one = json_decode($line, true);
        if (! is_array($one)) {
            continue;
        }
        $verdicts[$one['verdict']]++;
        $one['verdict'] === 'noticed' || print strtoupper($one['verdict'])."  {$one['file']}:{$one['line']}  {$one['what']}\n";
    }
}
array_map(proc_close(...), $processes);
$total = max(1, array_sum($verdicts));
printf(
    "%d mutants of %d in %s with seed %s: %d noticed, %d survived, %d without a test; %.1f %%\n",
    $total,
    count($all),
    $room,
    $seed,
    $verdicts['noticed'],
    $verdicts['survived'],
    $verdicts['untested'],
    100 * $verdicts['noticed'] / $total,
);
