<?php

declare(strict_types=1);

use App\Links\ControlChannel;
use App\Links\Unanswered;
use App\Models\Server;

/** @return array{Server, resource} */
function flaky(int $drop): array
{
    $probe = stream_socket_server('tcp://127.0.0.1:0');
    $port = (int) explode(':', (string) stream_socket_get_name($probe, false))[1];
    fclose($probe);
    $process = proc_open(
        [PHP_BINARY, dirname(__DIR__).'/fixtures/flaky-control.php', (string) $port, (string) $drop],
        [['file', '/dev/null', 'r'], ['file', '/dev/null', 'w'], ['file', '/dev/null', 'w']],
        $pipes,
    );
    for ($i = 0; $i < 100 && ! str_contains(strtoupper((string) file_get_contents('/proc/net/tcp')), sprintf(':%04X', $port)); $i++) {
        usleep(20000);
    }
    $server = new Server(['name' => 'lampX', 'control' => "127.0.0.1:$port"]);
    $server->setAttribute('token', 'secret');

    return [$server, $process];
}

it('sends a control message again when the connection broke', function (int $drop): void {
    [$server, $process] = flaky($drop);
    expect((new ControlChannel($server, 2.0))->ask('status'))->toBe(['seen' => $drop + 1, 'op' => 'status']);
    proc_terminate($process);
})->with([0, 1, 2]);

it('gives up after three tries and says so', function (): void {
    [$server, $process] = flaky(9);
    expect(fn () => (new ControlChannel($server, 2.0))->ask('status'))->toThrow(Unanswered::class, 'tried 3 times');
    proc_terminate($process);
});

it('does not repeat what may not be done twice', function (): void {
    [$server, $process] = flaky(1);
    $channel = new ControlChannel($server, 2.0);
    expect(fn () => $channel->ask('apply', once: true))->toThrow(Unanswered::class, 'closed the connection')
        ->and($channel->ask('status'))->toBe(['seen' => 2, 'op' => 'status']);
    proc_terminate($process);
});

it('says where nobody listens', function (): void {
    $server = new Server(['name' => 'lampX', 'control' => '127.0.0.1:9']);
    $server->setAttribute('token', 'secret');
    expect(fn () => (new ControlChannel($server, 1.0))->ask('status'))->toThrow(
        Unanswered::class,
        'lampX cannot be reached at 127.0.0.1:9',
    );
});
