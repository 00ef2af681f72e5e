<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/** The processes of an instance, known by id and start time, so that an id used again by somebody else's is never touched. */
final class Processes
{
    public function __construct(private readonly string $file)
    {
    }

    /**
     * Starts a program in a session of its own, so that Ctrl-C reaches only the script, which then ends all in order.
     *
     * @param  list<string>  $command
     * @param  array<string, string>  $env
     */
    public function start(string $name, array $command, string $log, string $directory, array $env = []): int
    {
        $process = proc_open(
            ['setsid', ...$command],
            [['file', '/dev/null', 'r'], ['file', $log, 'a'], ['file', $log, 'a']],
            $pipes,
            $directory,
            $env + getenv(),
        );
        if ($process === false) {
            throw new Trouble("$name could not be started.");
        }
        $pid = proc_get_status($process)['pid'];
        self::$handles[] = $process;
        $this->remember($name, $pid);

        return $pid;
    }

    /** @var list<resource> kept, or PHP would wait for them when they are collected */
    public static array $handles = [];

    public function remember(string $name, int $pid): void
    {
        $all = $this->all();
        $all[$name] = ['pid' => $pid, 'started' => self::startOf($pid), 'since' => time()];
        $this->write($all);
    }

    public function forget(string $name): void
    {
        $all = $this->all();
        unset($all[$name]);
        $this->write($all);
    }

    /** @return array<string, array{pid: int, started: ?string, since: int}> */
    public function all(): array
    {
        $all = is_file($this->file) ? json_decode((string) file_get_contents($this->file), true) : null;

        return is_array($all) ? $all : [];
    }

    public function isAlive(string $name): bool
    {
        // A child that ended is a zombie until it is waited for.
        pcntl_waitpid(-1, $status, WNOHANG);
        $one = $this->all()[$name] ?? null;

        return $one !== null && $one['started'] !== null && self::startOf($one['pid']) === $one['started'];
    }

    public function anyAlive(): bool
    {
        return array_filter(array_keys($this->all()), $this->isAlive(...)) !== [];
    }

    /** What it had started and is left of it, when it was ended by force: they are one session. */
    public function sweep(string $name): void
    {
        $pid = $this->all()[$name]['pid'] ?? 0;
        if ($pid > 1 && $pid !== getmypid() && ! is_dir("/proc/$pid")) {
            posix_kill(-$pid, SIGKILL);
        }
    }

    /** Asks a process to end. */
    public function ask(string $name, int $signal = SIGTERM): void
    {
        $one = $this->all()[$name] ?? null;
        if ($one !== null && $this->isAlive($name) && $one['pid'] !== getmypid()) {
            posix_kill($one['pid'], $signal);
        }
    }

    /** Ends one process: asks, waits, then insists. */
    public function end(string $name, float $patience = 15.0, int $signal = SIGTERM): void
    {
        $one = $this->all()[$name] ?? null;
        if ($one !== null && $this->isAlive($name) && $one['pid'] !== getmypid()) {
            $this->ask($name, $signal);
            $this->await($name, $patience) || posix_kill($one['pid'], SIGKILL) && $this->await($name, 1.0);
        }
        $this->sweep($name);
        $this->forget($name);
    }

    /** Has it ended within so many seconds? */
    private function await(string $name, float $patience): bool
    {
        for ($until = microtime(true) + $patience; microtime(true) < $until; usleep(30000)) {
            if (! $this->isAlive($name)) {
                return true;
            }
        }

        return false;
    }

    /** Clock ticks after boot at which a process started; null when there is none (or only its zombie). */
    private static function startOf(int $pid): ?string
    {
        $stat = @file_get_contents("/proc/$pid/stat");
        if ($stat === false) {
            return null;
        }
        $fields = explode(' ', substr($stat, (int) strrpos($stat, ')') + 2));

        return $fields[0] === 'Z' ? null : $fields[19];
    }

    /** @param  array<string, array{pid: int, started: ?string, since: int}>  $all */
    private function write(array $all): void
    {
        file_put_contents($this->file.'.new', json_encode($all, JSON_PRETTY_PRINT));
        rename($this->file.'.new', $this->file);
    }
}
