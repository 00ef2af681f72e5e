<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/** Progress on the terminal: a line when a step starts, the seconds when it took some. */
final class Say
{
    public static function line(string $text): void
    {
        @fwrite(STDOUT, $text."\n");
    }

    /**
     * @template T
     *
     * @param  \Closure(): T  $work
     * @return T
     */
    public static function step(string $what, \Closure $work): mixed
    {
        fwrite(STDOUT, "  $what … ");
        $start = microtime(true);
        try {
            $result = $work();
        } catch (\Throwable $e) {
            fwrite(STDOUT, "failed\n");
            throw $e;
        }
        fwrite(STDOUT, sprintf("%.1f s\n", microtime(true) - $start));

        return $result;
    }

    /**
     * Runs a program quietly; its output is shown only when it fails.
     *
     * @param  list<string>  $command
     * @param  array<string, string>  $env
     */
    public static function quietly(array $command, string $directory, array $env = []): string
    {
        $log = tempnam(sys_get_temp_dir(), 'hpost');
        $process = proc_open(
            $command,
            [['file', '/dev/null', 'r'], ['file', $log, 'w'], ['file', $log, 'a']],
            $pipes,
            $directory,
            $env + getenv(),
        );
        $status = $process === false ? 127 : proc_close($process);
        $output = (string) file_get_contents($log);
        unlink($log);
        if ($status !== 0) {
            throw new Trouble(
                implode(' ', $command)." failed with status $status:\n".implode("\n", array_slice(explode("\n", trim($output)), -25)),
            );
        }

        return $output;
    }
}
