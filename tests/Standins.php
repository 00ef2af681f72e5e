<?php

declare(strict_types=1);

namespace Tests;

use App\Links\ControlChannel;
use App\Models\Server;

/** Stand-ins of a test's own, on ports that are free, ended with it. */
final class Standins
{
    /** @var array<string, resource> */
    private array $processes = [];

    /** @var array<string, array<string, mixed>> */
    public array $settings = [];

    private readonly string $directory;

    /** @param  array<string, string>  $kinds  name → dns, resolver or dhcp */
    public function __construct(array $kinds)
    {
        $this->directory = sys_get_temp_dir().'/hpost-test-'.bin2hex(random_bytes(5));
        mkdir($this->directory);
        foreach ($kinds as $name => $kind) {
            $this->settings[$name] = [
                'kind' => $kind,
                'port' => self::port(),
                'control' => self::port(),
                'token' => 'secret',
                'directory' => "$this->directory/$name",
                'identifier' => ['dh2' => '192.0.2.68', 'ns1' => '192.0.2.53', 'ns2' => '192.0.2.54'][$name] ?? '192.0.2.67',
                'forward' => $kind === 'resolver' ? $this->settings[array_key_first($this->settings)]['port'] : null,
            ];
        }
        file_put_contents("$this->directory/s.json", json_encode($this->settings));
        array_map($this->start(...), array_keys($kinds));
    }

    public function start(string $name): void
    {
        $this->processes[$name] = proc_open(
            [PHP_BINARY, dirname(__DIR__).'/standins/run.php', "$this->directory/s.json", $name],
            [['file', '/dev/null', 'r'], ['file', "$this->directory/log", 'a'], ['file', "$this->directory/log", 'a']],
            $pipes,
        );
        for ($i = 0; $i < 100; $i++) {
            $socket = @stream_socket_client('tcp://127.0.0.1:'.$this->settings[$name]['control'], $code, $why, 0.2);
            if ($socket !== false) {
                fclose($socket);

                return;
            }
            usleep(30000);
        }
        throw new \RuntimeException("$name did not start: ".file_get_contents("$this->directory/log"));
    }

    public function stop(string $name): void
    {
        proc_terminate($this->processes[$name]);
        proc_close($this->processes[$name]);
        unset($this->processes[$name]);
    }

    /** Ends it at once, whatever it does: it has no time to write anything. */
    public function kill(string $name): void
    {
        proc_terminate($this->processes[$name], SIGKILL);
        proc_close($this->processes[$name]);
        unset($this->processes[$name]);
    }

    public function endpoint(string $name): string
    {
        return '127.0.0.1:'.$this->settings[$name]['port'];
    }

    /** @param  array<string, mixed>  $message
     * @return array<string, mixed>
     */
    public function tell(string $name, string $op, array $message = []): array
    {
        $server = new Server(['name' => $name, 'control' => '127.0.0.1:'.$this->settings[$name]['control']]);
        $server->setAttribute('token', 'secret');

        return (new ControlChannel($server, 3.0))->ask($op, $message);
    }

    public function __destruct()
    {
        array_map($this->stop(...), array_keys($this->processes));
        exec('rm -rf '.escapeshellarg($this->directory));
    }

    public static function port(): int
    {
        /** @var array<int, true> $given */
        static $given = [];
        for (; ;) {
            // Below the ports that the system and whole instances take; each lane has its own, since the other one might listen first on
            // a port that is free now.
            $from = getenv('TEST_TOKEN') === '2' ? 15_500 : 11_000;
            $port = random_int($from, $from + 4_499);
            if (isset($given[$port])) {
                continue;
            }
            $tcp = @stream_socket_server("tcp://127.0.0.1:$port");
            $udp = @stream_socket_server("udp://127.0.0.1:$port", $code, $why, STREAM_SERVER_BIND);
            if ($tcp !== false && $udp !== false) {
                $given[$port] = true;

                return $port;
            }
        }
    }
}
