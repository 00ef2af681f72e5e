<?php

declare(strict_types=1);

namespace Tests;

use App\Models\TransferKey;

/** A name server of independent make, of a test's own and ended with it. */
final class Foreign
{
    /** @var resource|null */
    private $process;

    private readonly string $directory;

    /** @param  list<string>  $lines  the zone that it has at first, its SOA first; none for a server without zones */
    public function __construct(private readonly int $port, private readonly TransferKey $key, array $lines, bool $secondary = false)
    {
        $this->directory = sys_get_temp_dir().'/hpost-foreign-'.bin2hex(random_bytes(5));
        mkdir($this->directory);
        $words = [$key->name, $key->algorithm->value, $key->secret, ...$secondary ? ['secondary'] : []];
        file_put_contents("$this->directory/key", implode("\n", $words));
        $this->start($lines);
    }

    /** @return list<string> what it tells of updates and notices */
    public function told(): array
    {
        return array_slice(explode("\n", trim((string) file_get_contents("$this->directory/told"))), 1);
    }

    /**
     * Somebody changes its zone: these sets are as here from now on, at a serial or at the same one.
     *
     * @param  list<string>  $lines
     */
    public function set(array $lines, ?int $serial = null): void
    {
        file_put_contents("$this->directory/set", implode("\n", [(string) $serial, ...$lines])."\n");
        posix_kill((int) proc_get_status($this->process ?? throw new \LogicException('ended'))['pid'], SIGUSR1);
        for ($i = 0; $i < 200 && is_file("$this->directory/set"); $i++) {
            usleep(10_000);
        }
    }

    public function stop(): void
    {
        if ($this->process !== null) {
            proc_terminate($this->process, SIGKILL);
            proc_close($this->process);
            $this->process = null;
        }
    }

    public function __destruct()
    {
        $this->stop();
        exec('rm -rf '.escapeshellarg($this->directory));
    }

    /** @param  list<string>  $lines */
    private function start(array $lines): void
    {
        file_put_contents("$this->directory/zone", implode("\n", $lines)."\n");
        $zone = $lines === [] ? [] : ["$this->directory/zone"];
        $this->process = proc_open(
            ['/usr/bin/python3', __DIR__.'/fixtures/primary.py', (string) $this->port, "$this->directory/key", ...$zone],
            [['file', '/dev/null', 'r'], ['file', "$this->directory/told", 'w'], ['file', "$this->directory/errors", 'w']],
            $pipes,
        ) ?: null;
        for ($i = 0; $i < 300; $i++) {
            if (str_contains((string) @file_get_contents("$this->directory/told"), 'ready')) {
                return;
            }
            usleep(20_000);
        }
        throw new \RuntimeException("It did not start for {$this->key->name}: ".file_get_contents("$this->directory/errors"));
    }
}
