<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/** Ports of an instance, remembered in a file; a free one is taken for each that is not known or is somebody else's now. */
final class Ports
{
    /** @var array<string, int> */
    private array $ports;

    public function __construct(private readonly string $file)
    {
        $known = is_file($file) ? json_decode((string) file_get_contents($file), true) : null;
        $this->ports = is_array($known) ? array_map(intval(...), $known) : [];
    }

    public function of(string $name): int
    {
        $port = $this->ports[$name] ?? null;
        // Two of one instance may have been given the same, before the first of them listened.
        $shared = $port !== null && count(array_keys($this->ports, $port, true)) > 1;
        if ($port === null || $shared || ! self::isFree($port)) {
            $this->ports[$name] = $this->free();
            $this->write();
        }

        return $this->ports[$name];
    }

    public function known(string $name): ?int
    {
        return $this->ports[$name] ?? null;
    }

    public function demand(string $name, int $port): int
    {
        if ($port < 1 || $port > 65535) {
            throw new Trouble("--port takes a number from 1 to 65535, not $port.");
        }
        if (! self::isFree($port)) {
            throw new Trouble(
                "Port $port is taken by another program. Choose another with --port, or leave --port away to take a free one.",
            );
        }
        $this->ports[$name] = $port;
        $this->write();

        return $port;
    }

    public static function isFree(int $port): bool
    {
        $tcp = @stream_socket_server("tcp://127.0.0.1:$port");
        $udp = @stream_socket_server("udp://127.0.0.1:$port", $code, $message, STREAM_SERVER_BIND);
        $free = $tcp !== false && $udp !== false;
        $tcp === false || fclose($tcp);
        $udp === false || fclose($udp);

        return $free;
    }

    private function free(): int
    {
        for ($i = 0; $i < 200; $i++) {
            $port = random_int(20000, 32000);
            if (! in_array($port, $this->ports, true) && self::isFree($port)) {
                return $port;
            }
        }
        throw new Trouble('No free port was found between 20000 and 32000.');
    }

    private function write(): void
    {
        file_put_contents($this->file, json_encode($this->ports, JSON_PRETTY_PRINT));
    }
}
