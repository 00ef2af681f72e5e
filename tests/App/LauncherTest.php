<?php

declare(strict_types=1);

use HarborPost\Launcher\Packages;
use HarborPost\Launcher\Ports;
use HarborPost\Launcher\Processes;
use HarborPost\Launcher\Trouble;

foreach (['Trouble', 'Say', 'Packages', 'Ports', 'Processes'] as $class) {
    require_once __DIR__."/../../launcher/$class.php";
}

beforeEach(function (): void {
    $this->directory = sys_get_temp_dir().'/hpost-launch-'.bin2hex(random_bytes(4));
    mkdir($this->directory);
});

afterEach(function (): void {
    exec('rm -rf '.escapeshellarg($this->directory));
});

it('takes free ports and remembers them', function (): void {
    $ports = new Ports("$this->directory/ports.json");
    $web = $ports->of('web');
    expect(Ports::isFree($web))->toBeTrue()
        ->and((new Ports("$this->directory/ports.json"))->of('web'))->toBe($web)
        ->and($ports->of('mariadb'))->not->toBe($web);
});

it('gives no port twice, also where two were given the same before', function (): void {
    $ports = new Ports("$this->directory/ports.json");
    $given = array_map(fn (int $i): int => $ports->of("server$i"), range(1, 600));
    expect(count(array_unique($given)))->toBe(600);
    file_put_contents("$this->directory/ports.json", json_encode(['one' => $given[0], 'other' => $given[0]]));
    $ports = new Ports("$this->directory/ports.json");
    expect($ports->of('one'))->not->toBe($ports->of('other'));
});

it('takes another port when the remembered one is somebody else\'s now', function (): void {
    $ports = new Ports("$this->directory/ports.json");
    $web = $ports->of('web');
    $taken = stream_socket_server("tcp://127.0.0.1:$web");
    expect((new Ports("$this->directory/ports.json"))->of('web'))->not->toBe($web)
        ->and(fn () => $ports->demand('web', $web))->toThrow(Trouble::class, "Port $web is taken");
    fclose($taken);
    expect($ports->demand('web', $web))->toBe($web);
});

it('knows a process by its start and not only by its id', function (): void {
    $processes = new Processes("$this->directory/p.json");
    $pid = $processes->start('sleeper', ['sleep', '30'], "$this->directory/log", $this->directory);
    expect($processes->isAlive('sleeper'))->toBeTrue()->and($processes->anyAlive())->toBeTrue();
    // The same id with another start is another program, and is left alone.
    $all = json_decode((string) file_get_contents("$this->directory/p.json"), true);
    $all['stranger'] = ['pid' => $pid, 'started' => '1', 'since' => 0];
    file_put_contents("$this->directory/p.json", json_encode($all));
    $processes->end('stranger');
    expect($processes->isAlive('sleeper'))->toBeTrue();
    $processes->end('sleeper');
    expect($processes->isAlive('sleeper'))->toBeFalse()->and($processes->all())->toBe([]);
});

it('insists when a process does not listen', function (): void {
    $processes = new Processes("$this->directory/p.json");
    $processes->start('deaf', ['sh', '-c', 'trap "" TERM; while :; do sleep 0.1; done'], "$this->directory/log", $this->directory);
    usleep(200000);
    $processes->end('deaf', 0.4);
    expect($processes->isAlive('deaf'))->toBeFalse();
});

it('finds programs where an ordinary PATH does not lead', function (): void {
    expect(Packages::program('php'))->not->toBeNull()
        ->and(Packages::program('mariadbd'))->toEndWith('/mariadbd')
        ->and(Packages::program('no-such-program'))->toBeNull();
});

it('answers usage with 2 and says what it knows', function (array $arguments, int $status): void {
    $process = proc_open(
        [PHP_BINARY, base_path('hpost'), ...$arguments],
        [['file', '/dev/null', 'r'], ['pipe', 'w'], ['pipe', 'w']],
        $pipes,
    );
    $said = stream_get_contents($pipes[1]).stream_get_contents($pipes[2]);
    expect(proc_close($process))->toBe($status)->and($said)->not->toBe('');
})->with([
    [['help'], 0],
    [['demo', '--colour'], 2],
    [['demo', '--port', 'x'], 2],
    [['stop', '--instance', 'never-started'], 0],
    [['status', '--instance', 'never-started'], 1],
    [['no:such'], 2],
]);
