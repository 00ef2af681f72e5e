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
        $wants('style') && $this->advisories();
        if ($only === 'mutate') {
            return $this->mutate(array_slice($arguments, 1));
        }
        $wants('pest') && $this->pest(array_slice($arguments, 1));
        $wants('browser') && $this->browser(array_slice($arguments, 1));
        Say::line('');
        Say::line("$this->passed passed, $this->failed failed");

        return $this->failed === 0 && $this->passed > 0 ? 0 : 1;
    }

    /**
     * A seeded sample of mutants, outside of the ordinary run: `mutate core 200 1`, `mutate acts 100 1`.
     *
     * @param  list<string>  $arguments
     */
    private function mutate(array $arguments): int
    {
        return $this->shown([PHP_BINARY, 'tests/mutation/run.php', ...$arguments], []);
    }

    /** What is known to be unsound among the packages that are shipped, where the registry tells of it. */
    private function advisories(): void
    {
        Say::line('== Advisories');
        foreach ([
            'PHP' => ['composer', 'audit', '--no-dev', '--no-interaction', '--format=json'],
            'Node' => ['npm', 'audit', '--omit=dev', '--audit-level=high', '--json'],
        ] as $of => $command) {
            [, $told] = $this->heard(['timeout', '60', ...$command]);
            $said = json_decode($told, true);
            $found = self::advised(is_array($said) ? $said : []);
            Say::line("  $of: ".match (true) {
                $found === null => 'the registry does not tell',
                $found === [] => 'none is told',
                default => implode(', ', $found),
            });
            $found === null || ($found === [] ? $this->passed++ : $this->failed++);
        }
    }

    /**
     * @param  array<mixed>  $said  as composer or npm tell it
     * @return ?list<string> packages of which something is known; null where nothing was told
     */
    private static function advised(array $said): ?array
    {
        if (is_array($said['advisories'] ?? null)) {
            return array_map(strval(...), array_keys($said['advisories']));
        }
        if (! is_array($said['vulnerabilities'] ?? null)) {
            return null;
        }
        $grave = array_filter($said['vulnerabilities'], static fn (mixed $one): bool => is_array($one)
            && in_array($one['severity'] ?? '', ['high', 'critical'], true));

        return array_map(strval(...), array_keys($grave));
    }

    /**
     * @param  list<string>  $command
     * @return array{int, string} its status and what it told; nothing is shown
     */
    private function heard(array $command): array
    {
        $process = proc_open($command, [['file', '/dev/null', 'r'], ['pipe', 'w'], ['file', '/dev/null', 'w']], $pipes, $this->root,
            ['COMPOSER_ALLOW_SUPERUSER' => '1'] + getenv());
        if ($process === false) {
            return [127, ''];
        }
        $told = (string) stream_get_contents($pipes[1]);
        fclose($pipes[1]);

        return [proc_close($process), $told];
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
        // What is named runs alone; all of it runs side by side, each lane with an instance of its own.
        $lanes = array_map(
            fn (string $name): Instance => new Instance($this->root, $name),
            $arguments === [] ? ['test', 'test-2'] : ['test'],
        );
        $instance = $lanes[0];
        try {
            foreach ($lanes as $lane) {
                self::prepare($lane);
            }
            [$status, $told] = $this->told(
                [
                    PHP_BINARY, '-d', 'memory_limit=2G', 'vendor/bin/pest', '--colors=never', '--compact',
                    ...$arguments === [] ? ['--parallel', '--processes='.count($lanes)] : $arguments,
                ],
                $instance->env() + ['APP_ENV' => 'testing'],
            );
            $count = static fn (string $what): int => preg_match("/^\s*Tests:.*?(\d+) $what/m", $told, $m) === 1 ? (int) $m[1] : 0;
            $this->passed += $count('passed');
            $this->failed += $status === 0 ? $count('failed') : max(1, $count('failed'));
        } finally {
            foreach ($lanes as $lane) {
                $lane->stop();
            }
        }
    }

    private static function prepare(Instance $lane): void
    {
        $lane->clear(false);
        $lane->writeSettings([
            'APP_ENV' => 'testing', 'BCRYPT_ROUNDS' => '4', 'SESSION_DRIVER' => 'array', 'CACHE_STORE' => 'array',
            'QUEUE_CONNECTION' => 'sync', 'HARBOR_DEMO' => 'false',
        ]);
        $lane->startDatabase(['--innodb-flush-log-at-trx-commit=0', '--innodb-buffer-pool-size=256M'], whole: true);
        $lane->artisan(['migrate:fresh', '--force']);
    }

    /** @param  list<string>  $arguments */
    private function browser(array $arguments): void
    {
        Say::line('== Playwright');
        // What is named runs alone; all of it runs side by side, each part against a demo of its own.
        $names = $arguments === [] ? ['browser', 'browser-2'] : ['browser'];
        $demos = $runs = [];
        try {
            foreach ($names as $i => $name) {
                // One after the other: each has a database to make, and the first part is under way while the second demo is loaded.
                $demos[$name] = proc_open(
                    [PHP_BINARY, "$this->root/hpost", 'demo', '--fresh', '--instance', $name],
                    [['file', '/dev/null', 'r'], ['file', $this->log($name), 'w'], ['file', $this->log($name), 'a']],
                    $pipes,
                    $this->root,
                );
                $this->awaitDemo($name, $demos[$name]);
                $part = count($names) > 1 ? ['--shard='.($i + 1).'/'.count($names), '--output=var/playwright-'.$name] : [];
                $runs[$name] = $this->playwright($name, [...$arguments, ...$part]);
            }
            foreach ($runs as $name => $run) {
                $this->counted($name, $run === false ? 127 : proc_close($run));
            }
        } finally {
            foreach ($demos as $demo) {
                $demo === false || posix_kill(proc_get_status($demo)['pid'], SIGTERM);
            }
            foreach ($demos as $demo) {
                $demo === false || proc_close($demo);
            }
        }
    }

    private function log(string $instance): string
    {
        return "$this->root/var/$instance.log";
    }

    private function report(string $instance): string
    {
        return "$this->root/var/$instance.json";
    }

    /** @param  resource|false  $demo */
    private function awaitDemo(string $name, mixed $demo): void
    {
        for ($until = microtime(true) + 300; microtime(true) < $until; usleep(300000)) {
            $ready = str_contains((string) @file_get_contents($this->log($name)), 'Ctrl-C');
            if ($ready || $demo === false || ! proc_get_status($demo)['running']) {
                return;
            }
        }
    }

    /**
     * @param  list<string>  $arguments
     * @return resource|false
     */
    private function playwright(string $name, array $arguments): mixed
    {
        // Its ports are known only now: the instance chose them while it started.
        $instance = new Instance($this->root, $name);
        @unlink($this->report($name));
        $env = [
            'HPOST_URL' => 'http://127.0.0.1:'.$instance->ports->known('web'), 'PLAYWRIGHT_JSON_OUTPUT_NAME' => $this->report($name),
        ];

        return proc_open(
            ['npx', 'playwright', 'test', ...$arguments],
            [['file', '/dev/null', 'r']],
            $pipes,
            $this->root,
            $env + getenv(),
        );
    }

    private function counted(string $name, int $status): void
    {
        $report = $this->report($name);
        $stats = is_file($report) ? (array) (json_decode((string) file_get_contents($report), true)['stats'] ?? []) : [];
        $bad = (int) ($stats['unexpected'] ?? 0);
        $this->passed += (int) ($stats['expected'] ?? 0) + (int) ($stats['flaky'] ?? 0);
        $this->failed += $status === 0 ? $bad : max(1, $bad);
        if ($status !== 0) {
            $told = implode("\n", array_slice(explode("\n", (string) @file_get_contents($this->log($name))), -6));
            Say::line("The log of the instance $name ends with: $told");
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

    /**
     * Shown while it runs, and given back.
     *
     * @param  list<string>  $command
     * @param  array<string, string>  $env
     * @return array{int, string} status, what it said
     */
    private function told(array $command, array $env): array
    {
        $process = proc_open($command, [['file', '/dev/null', 'r'], ['pipe', 'w']], $pipes, $this->root, $env + getenv());
        $said = '';
        while ($process !== false && is_string($line = fgets($pipes[1]))) {
            // Side by side it colours what it says, whatever it is told.
            $line = (string) preg_replace('/\e\[[0-9;]*[A-Za-z]/', '', $line);
            Say::line(rtrim($line, "\n"));
            $said .= $line;
        }

        return [$process === false ? 127 : proc_close($process), $said];
    }
}
