<?php

declare(strict_types=1);

namespace Tests\Mutation;

/** A copy of the tree in which one mutant after another is put to the tests that belong to its source. */
final class Bench
{
    /** Seconds after which a mutant that does not end counts as noticed. */
    private const PATIENCE = 240;

    /** Test files that one mutant is put to. */
    private const MOST = 14;

    /** @var array<string, string> path → contents */
    private array $tests = [];

    /** @param  array<string, string>  $env */
    public function __construct(private readonly string $root, private readonly array $env)
    {
        foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator("$root/tests")) as $file) {
            $path = substr((string) $file, strlen($root) + 1);
            if ($file instanceof \SplFileInfo && str_ends_with($path, 'Test.php') && ! str_contains($path, 'Launcher')) {
                $this->tests[$path] = (string) file_get_contents((string) $file);
            }
        }
    }

    /**
     * @param  array{file: string, line: int, from: int, to: int, text: string, what: string}  $mutant
     * @return 'noticed'|'survived'|'untested'
     */
    public function put(array $mutant): string
    {
        $path = "$this->root/{$mutant['file']}";
        $source = (string) file_get_contents($path);
        // Who may do an act is asked of all of them in one place, which names none.
        $tests = [...$this->testsOf($mutant['file']), ...str_starts_with($mutant['file'], 'app/Acts/') ? ['tests/App/DoorsTest.php'] : []];
        if ($tests === []) {
            return 'untested';
        }
        // A new file in place of the old one: the old one is shared with the tree it was copied from.
        unlink($path);
        file_put_contents($path, substr($source, 0, $mutant['from']).$mutant['text'].substr($source, $mutant['to']));
        try {
            return $this->passes($tests) ? 'survived' : 'noticed';
        } finally {
            file_put_contents($path, $source);
        }
    }

    /**
     * Tests that name the class, then those that name a class which names it.
     *
     * @return list<string>
     */
    private function testsOf(string $file): array
    {
        $name = basename($file, '.php');
        $direct = $this->naming([$name]);
        if (count($direct) >= self::MOST) {
            return array_slice($direct, 0, self::MOST);
        }
        $users = [];
        exec('cd '.escapeshellarg($this->root).' && grep -rlw --include=*.php '.escapeshellarg($name).' core app 2>/dev/null', $users);
        $near = $this->naming(array_map(static fn (string $f): string => basename($f, '.php'), array_slice($users, 0, 12)));

        $all = array_values(array_unique([...$direct, ...$near]));

        return $all === [] ? $this->beside($file) : array_slice($all, 0, self::MOST);
    }

    /**
     * Tests of the same room, for what is reached by no name: a type of record by its text, an option by its code.
     *
     * @return list<string>
     */
    private function beside(string $file): array
    {
        $room = explode('/', $file)[1] ?? '';

        return array_values(array_filter(
            array_keys($this->tests),
            static fn (string $t): bool => str_starts_with($t, "tests/Core/$room/") || $t === 'tests/Core/ForeignTest.php',
        ));
    }

    /**
     * @param  list<string>  $classes
     * @return list<string> the small ones first
     */
    private function naming(array $classes): array
    {
        $pattern = '/\b('.implode('|', array_map(preg_quote(...), $classes)).')\b/';
        $found = $classes === [] ? [] : array_filter($this->tests, static fn (string $text): bool => preg_match($pattern, $text) === 1);
        uasort($found, static fn (string $a, string $b): int => strlen($a) <=> strlen($b));

        return array_keys($found);
    }

    /** @param  list<string>  $tests */
    private function passes(array $tests): bool
    {
        $command = ['timeout', (string) self::PATIENCE, PHP_BINARY, '-d', 'memory_limit=2G', 'vendor/bin/pest', '--compact',
            '--stop-on-failure',
            ...$tests];
        $process = proc_open(
            $command,
            [['file', '/dev/null', 'r'], ['file', '/dev/null', 'w'], ['file', '/dev/null', 'w']],
            $pipes,
            $this->root,
            $this->env + getenv(),
        );

        return $process !== false && proc_close($process) === 0;
    }
}
