<?php

declare(strict_types=1);

namespace Tests;

use App\Queries\HandedOutZones;
use App\Serving\Answering;
use HarborPost\Core\Net\Address;

/**
 * Hands zones out from the rows of a test that nobody else sees: a process beside it, on the same connection to the database. That does as
 * long as the test waits whenever this one works, which a question and its answer make sure of.
 */
final class HandingOut
{
    private readonly int $process;

    public function __construct(private readonly int $port, private readonly string $log)
    {
        $udp = stream_socket_server("udp://127.0.0.1:$this->port", $code, $why, STREAM_SERVER_BIND);
        $tcp = stream_socket_server("tcp://127.0.0.1:$this->port");
        if ($udp === false || $tcp === false) {
            throw new \RuntimeException("port $this->port: $why");
        }
        touch($this->log);
        $process = pcntl_fork();
        if ($process === 0) {
            $this->serve($udp, $tcp);
        }
        $this->process = $process;
        fclose($udp);
        fclose($tcp);
    }

    public function stop(): void
    {
        posix_kill($this->process, SIGKILL);
        pcntl_waitpid($this->process, $status);
    }

    /**
     * @param  resource  $udp
     * @param  resource  $tcp
     */
    private function serve($udp, $tcp): never
    {
        $answer = function (string $packet, bool $whole): \Generator {
            $server = HandedOutZones::server();
            $log = fn (string $words) => file_put_contents($this->log, "$words\n", FILE_APPEND);

            yield from (new Answering($server, $log))
                ->to($packet, Address::parse('127.0.0.1'), $whole, time());
        };
        while (true) {
            [$read, $write, $except] = [[$udp, $tcp], [], []];
            stream_select($read, $write, $except, 5);
            try {
                foreach ($read as $socket) {
                    if ($socket === $udp) {
                        $packet = (string) stream_socket_recvfrom($udp, 65535, 0, $peer);
                        foreach ($answer($packet, false) as $bytes) {
                            stream_socket_sendto($udp, $bytes, 0, (string) $peer);
                        }

                        continue;
                    }
                    $client = stream_socket_accept($tcp, 1);
                    $head = $client === false ? false : fread($client, 2);
                    if ($client !== false && is_string($head) && strlen($head) === 2) {
                        $packet = (string) fread($client, ord($head[0]) << 8 | ord($head[1]));
                        foreach ($answer($packet, true) as $bytes) {
                            fwrite($client, pack('n', strlen($bytes)).$bytes);
                        }
                    }
                }
            } catch (\Throwable $e) {
                file_put_contents($this->log, "$e\n", FILE_APPEND);
            }
        }
    }
}
