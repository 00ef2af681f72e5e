<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/** Everything that has to pass: style, static analysis, Pest with its own database, Playwright against a running instance. */
final class Tests
{
    private int $passed = 0;

    private int $failed = 0;

    public function __construct(private readonly string $root)
    {
    }

    /** @param  list<string>  $arguments */
    public function run(array $arguments): int
    {
        (new Packages($this->root))->ensure(true);
        $only = $arguments[0] ?? 'all';
        $wants = static fn (string $part): bool => $only === 'all' || $only === $part;
        $wants('style') && $this->whole('Pint', [PHP_BINARY, 'vendor/bin/pint', '--test', '-q']);
        $wants('style')
            && $this->whole(
                'PHPStan, core at max',
                [PHP_BINARY, 'vendor/bin/phpstan', 'analyse', '-c', 'phpstan.neon', '--no-progress', '--memory-limit=2G'],
            );
        $wants('style')
            && $this->whole(
                'PHPStan, app',
                [PHP_BINARY, 'vendor/bin/phpstan', 'analyse', '-c', 'phpstan-app.neon', '--no-progress', '--memory-limit=2G'],
            );
        $wants('style')
            && $this->whole(
                'Prettier',
                ['npx', 'prettier', '--check', '--log-level', 'warn', 'resources/js', 'resources/css', 'tests/browser', '*.js', '*.mjs'],
            );
        $wants('pest') && $this->pest(array_slice($arguments, 1));
        $wants('browser') && $this->browser(array_slice($arguments, 1));
        Say::line('');
        Say::line("$this->passed passed, $this->failed failed");

        return $this->failed === 0 && $this->passed > 0 ? 0 : 1;
    }

    /** @param  list<string>  $command */
    private function whole(string $what, array $command): void
    {
        Say::line("== $what");
        $status = $this->shown($command, []);
        $status === 0 ? $this->passed++ : $this->failed++;
    }

    /** @param  list<string>  $arguments */
    private function pest(array $arguments): void
    {
        Say::line('== Pest');
        $instance = new Instance($this->root, 'test');
        $instance->clear(false);
        $instance->writeSettings([
            'APP_ENV' => 'testing', 'BCRYPT_ROUNDS' => '4', 'SESSION_DRIVER' => 'array', 'CACHE_STORE' => 'array',
            'QUEUE_CONNECTION' => 'sync', 'HARBOR_DEMO' => 'false',
        ]);
        try {
            $instance->startDatabase(['--innodb-flush-log-at-trx-commit=0', '--innodb-buffer-pool-size=256M'], whole: true);
            $instance->artisan(['migrate:fresh', '--force']);
            $report = "$instance->directory/junit.xml";
            @unlink($report);
            $status = $this->shown(
                [
                    PHP_BINARY, '-d', 'memory_limit=2G', 'vendor/bin/pest', "--log-junit=$report", '--colors=never', '--compact',
                    ...$arguments,
                ],
                $instance->env() + ['APP_ENV' => 'testing'],
            );
            // The report may hold bytes that are no UTF-8, from the data of tests, so it is not read as XML.
            $head = is_file($report) ? (string) file_get_contents($report, length: 4000) : '';
            $count = static fn (string $what): int => preg_match("/<testsuite [^>]*\\b$what=\"(\\d+)\"/", $head, $m) === 1
                ? (int) $m[1]
                : 0;
            $total = $count('tests');
            $bad = $count('failures') + $count('errors');
            $this->passed += $total - $bad;
            $this->failed += $status === 0 ? $bad : max(1, $bad);
        } finally {
            $instance->stop();
        }
    }

    /** @param  list<string>  $arguments */
    private function browser(array $arguments): void
    {
        Say::line('== Playwright');
        $log = "$this->root/var/browser.log";
        $process = proc_open(
            [PHP_BINARY, "$this->root/hpost", 'demo', '--fresh', '--instance', 'browser'],
            [['file', '/dev/null', 'r'], ['file', $log, 'w'], ['file', $log, 'a']],
            $pipes,
            $this->root,
        );
        try {
            for (
                $until = microtime(true) + 240; microtime(true) < $until
                    && ! str_contains((string) @file_get_contents($log), 'Ctrl-C'); usleep(300000)
            ) {
                if ($process === false || ! proc_get_status($process)['running']) {
                    break;
                }
            }
            // Its ports are known only now: the instance chose them while it started.
            $instance = new Instance($this->root, 'browser');
            $report = "$this->root/var/playwright.json";
            @unlink($report);
            $status = $this->shown(
                ['npx', 'playwright', 'test', ...$arguments],
                ['HPOST_URL' => 'http://127.0.0.1:'.$instance->ports->known('web'), 'PLAYWRIGHT_JSON_OUTPUT_NAME' => $report],
            );
            $stats = is_file($report) ? (array) (json_decode((string) file_get_contents($report), true)['stats'] ?? []) : [];
            $bad = (int) ($stats['unexpected'] ?? 0);
            $this->passed += (int) ($stats['expected'] ?? 0) + (int) ($stats['flaky'] ?? 0);
            $this->failed += $status === 0 ? $bad : max(1, $bad);
            if ($status !== 0) {
                Say::line(
                    'The log of the instance ends with: '.implode("\n", array_slice(explode("\n", (string) @file_get_contents($log)), -6)),
                );
            }
        } finally {
            if ($process !== false) {
                posix_kill(proc_get_status($process)['pid'], SIGTERM);
                proc_close($process);
            }
        }
    }

    /**
     * @param  list<string>  $command
     * @param  array<string, string>  $env
     */
    private function shown(array $command, array $env): int
    {
        // What is not named is inherited as it is: named, a file would be written from its start again.
        $process = proc_open($command, [['file', '/dev/null', 'r']], $pipes, $this->root, $env + getenv());

        return $process === false ? 127 : proc_close($process);
    }
}
