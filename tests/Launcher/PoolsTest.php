<?php

declare(strict_types=1);

it('sends pages that ask servers to a pool of their own, and writes down how long each request took', function (): void {
    $run = sys_get_temp_dir().'/pools-'.bin2hex(random_bytes(4));
    $root = dirname(__DIR__, 2);
    require_once "$root/launcher/Instance.php";
    mkdir($run, 0700);
    $port = Tests\Standins::port();
    file_put_contents("$run/nginx.conf", strtr((string) file_get_contents("$root/launcher/templates/nginx.conf"), [
        '{packets}' => HarborPost\Launcher\Instance::packets($root, $run),
        '{log}' => $run, '{run}' => $run, '{root}' => $root, '{listen}' => "127.0.0.1:$port", '{hosts}' => 'localhost 127.0.0.1',
        '{ssl}' => '', '{https}' => "''", '{tls}' => '',
    ]));
    // Nobody answers behind these; which one is asked is what counts.
    $pools = [];
    foreach (['fpm', 'packets'] as $name) {
        $pools[$name] = stream_socket_server("unix://$run/$name.sock");
    }
    $nginx = proc_open(
        ['nginx', '-c', "$run/nginx.conf", '-p', $run, '-e', "$run/nginx.log", ...posix_geteuid() === 0 ? ['-g', 'user root;'] : []],
        [['file', '/dev/null', 'r'], ['file', "$run/out", 'w'], ['file', "$run/out", 'a']], $pipes, null,
        ['PATH' => getenv('PATH').':/usr/sbin'],
    );
    for ($i = 0; $i < 200 && ! is_file("$run/nginx.pid"); $i++) {
        usleep(25_000);
        clearstatcache();
    }
    $asked = function (string $path) use ($port, $pools): ?string {
        $client = fsockopen('127.0.0.1', $port);
        fwrite($client, "GET $path HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n");
        [$read, $write, $except] = [$pools, null, null];
        $which = stream_select($read, $write, $except, 5) > 0 ? (string) array_key_first($read) : null;
        $which === null ?: fclose(stream_socket_accept($pools[$which]));
        stream_get_contents($client);

        return $which;
    };
    try {
        $pool = [
            '/plan' => 'fpm', '/ship' => 'fpm', '/ship/server/01X' => 'packets', '/ship/together?x=1' => 'packets',
            '/name/lookup?name=a' => 'packets', '/name/zone/01X' => 'fpm', '/name/zone/01X/drift' => 'packets',
            '/lease/exchange' => 'packets', '/up' => 'fpm',
        ];
        expect(array_combine(array_keys($pool), array_map($asked, array_keys($pool))))->toBe($pool);
        $untimed = fn (string $line): string => (string) preg_replace('/ \d+\.\d{3}$/', '', $line);
        $lines = array_map($untimed, file("$run/requests.log", FILE_IGNORE_NEW_LINES));
        expect($lines)->toBe(['plan 502', 'ship 502', 'ship 502', 'ship 502', 'name 502', 'name 502', 'name 502', 'lease 502']);
    } finally {
        proc_terminate($nginx);
        proc_close($nginx);
        exec('rm -rf '.escapeshellarg($run));
    }
});
