<?php

declare(strict_types=1);

arch('core knows nothing of the framework')->expect('HarborPost\Core')->not
    ->toUse(['Illuminate', 'App', 'Carbon', 'Symfony', 'React', 'config', 'app', 'env', 'now']);
arch('core reads no clock, no disk and no dice')->expect('HarborPost\Core')->not
    ->toUse([
        'time', 'microtime', 'date', 'file_get_contents', 'fopen', 'random_int', 'random_bytes', 'rand', 'mt_rand',
        'stream_socket_client', 'curl_init',
    ]);
arch('core is strict and final')->expect('HarborPost\Core')->toUseStrictTypes()->classes()->toBeFinal();
arch('addresses stand on bytes alone')->expect('HarborPost\Core\Net')->not
    ->toUse(['HarborPost\Core\Dns', 'HarborPost\Core\Dhcp', 'HarborPost\Core\Planning', 'HarborPost\Core\Checks']);
arch('names know no leases')->expect('HarborPost\Core\Dns')->not
    ->toUse(['HarborPost\Core\Dhcp', 'HarborPost\Core\Planning', 'HarborPost\Core\Checks']);
arch('leases know of names only the name')->expect('HarborPost\Core\Dhcp')->not
    ->toUse([
        'HarborPost\Core\Dns\Rdata', 'HarborPost\Core\Dns\Wire', 'HarborPost\Core\Dns\Zone', 'HarborPost\Core\Dns\Record',
        'HarborPost\Core\Planning',
    ]);
arch('stand-ins use core and never the application')->expect('HarborPost\Standins')->not->toUse(['App', 'Illuminate']);
arch('controllers write nothing themselves')->expect('App\Http')->not->toUse(['App\Models\WriteGate', 'App\Acts\Engine\Ledger']);
arch('only acts open the gate')->expect('App\Models\WriteGate')->toOnlyBeUsedIn(['App\Acts', 'App\Domain', 'App\Models']);
arch('acts are readonly')->expect('App\Acts\Plan\PlaceHost')->toBeReadonly()->toBeFinal();
arch('no debugging is left')->expect(['dd', 'dump', 'var_dump', 'ray', 'print_r'])->not->toBeUsed();
arch('settings are read in config only')->expect('env')->not->toBeUsedIn('App');

it('makes no date of the present moment in core', function (): void {
    $found = [];
    foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator(__DIR__.'/../core', FilesystemIterator::SKIP_DOTS)) as $file) {
        preg_match(
            '/new \\\\?Date(Time|TimeImmutable)\b(\(\))?|static::now|getenv|\$_SERVER/',
            (string) file_get_contents((string) $file),
            $m,
        ) === 1
            && $found[] = (string) $file;
    }
    expect($found)->toBe([]);
});

it('has no line wider than 140 columns, 160 in a template', function (): void {
    $wide = [];
    $finder = (new Symfony\Component\Finder\Finder)->files()->name('*.php')->in(array_map(
        static fn (string $d): string => dirname(__DIR__)."/$d",
        ['app', 'bench', 'core', 'config', 'database', 'launcher', 'resources/views', 'routes', 'standins', 'tests'],
    ));
    foreach ($finder as $file) {
        $most = str_ends_with($file->getFilename(), '.blade.php') ? 160 : 140;
        foreach (explode("\n", $file->getContents()) as $n => $line) {
            if (mb_strlen($line) > $most) {
                $wide[] = $file->getPathname().':'.($n + 1);
            }
        }
    }
    expect($wide)->toBe([]);
});

/** From the doors down to the rows: a room knows the rooms behind it, and none before it. */
const ROOMS = [
    'Providers', 'Bench', 'Http', 'Console', 'Jobs', 'Serving', 'Texts', 'Api', 'View', 'Imports', 'Shipping', 'Live', 'Acts', 'Domain',
    'Acts\\Engine', 'Links', 'Queries', 'Guide',
    'Pages', 'Database', 'Models', 'Casts',
];

it('has no arrow from a room to one before it', function (): void {
    $room = fn (string $class): string => str_starts_with($class, 'Acts\\Engine') ? 'Acts\\Engine' : explode('\\', $class)[0];
    $rank = array_flip(ROOMS);
    $up = [];
    foreach (
        (new Symfony\Component\Finder\Finder)->files()->name('*.php')->in([dirname(__DIR__).'/app', dirname(__DIR__).'/bench']) as $file
    ) {
        $code = implode('', array_map(
            fn (PhpToken $t): string => in_array($t->id, [T_COMMENT, T_DOC_COMMENT], true) ? '' : $t->text,
            PhpToken::tokenize($file->getContents()),
        ));
        // What has no namespace is known everywhere.
        $own = preg_match('/^namespace App\\\\(.+);$/m', $code, $m) === 1 ? $room("$m[1]\\X") : 'Pages';
        expect(array_keys($rank))->toContain($own);
        preg_match_all('/\bApp\\\\((?:\w+\\\\)*\w+)/', $code, $used);
        foreach (array_unique($used[1]) as $class) {
            if (($rank[$room($class)] ?? -1) < $rank[$own]) {
                $up[] = "$own/{$file->getFilename()} knows $class";
            }
        }
    }
    expect($up)->toBe([]);
});

it('reads rows in queries without asking a server', function (): void {
    foreach ((new Symfony\Component\Finder\Finder)->files()->in(dirname(__DIR__).'/app/Queries') as $file) {
        expect($file->getContents())->not->toContain('App\\Links', $file->getFilename());
    }
});

it('carries out no act inside another: what stands for many names them, and the engine carries them out', function (): void {
    $inside = [];
    $acts = new RecursiveDirectoryIterator(dirname(__DIR__).'/app/Acts', FilesystemIterator::SKIP_DOTS);
    foreach (new RecursiveIteratorIterator($acts) as $file) {
        if (! str_contains((string) $file, '/Engine/')
            && preg_match('/->apply\(|->parts\(/', (string) file_get_contents((string) $file)) === 1) {
            $inside[] = basename((string) $file, '.php');
        }
    }
    expect($inside)->toBe([]);
});

it('types no address of a page: links name the page they lead to', function (): void {
    $routes = '';
    foreach (array_diff(glob(dirname(__DIR__).'/routes/*.php') ?: [], [dirname(__DIR__).'/routes/api.php']) as $file) {
        $routes .= file_get_contents($file);
    }
    preg_match_all('~Route::\w+\((?:\[[^]]*\], )?\'/([a-z][a-z-]+)~', $routes, $firsts);
    $first = implode('|', array_unique([...$firsts[1], 'api']));
    expect(count($firsts[1]))->toBeGreaterThan(150);
    $typed = [];
    $root = dirname(__DIR__);
    foreach ((new Symfony\Component\Finder\Finder)->files()->name('*.php')->in(["$root/app", "$root/resources/views"]) as $file) {
        foreach (explode("\n", $file->getContents()) as $n => $line) {
            // What other systems call their addresses is theirs, and a schema names its own from its base.
            if (preg_match('~["\']/(?:'.$first.')(?=["\'/?#.{$]|$)~', $line) === 1
                && ! in_array($file->getFilename(), ['ControllerClient.php', 'OpenApi.php'], true)) {
                $typed[] = $file->getRelativePathname().':'.($n + 1).' '.trim($line);
            }
        }
    }
    expect($typed)->toBe([]);
});

it('draws without asking the database: what a page needs is given to it', function (): void {
    $asks = [];
    $root = dirname(__DIR__);
    foreach ((new Symfony\Component\Finder\Finder)->files()->name('*.php')->in(["$root/app/View", "$root/resources/views"]) as $file) {
        foreach (explode("\n", $file->getContents()) as $n => $line) {
            $found = array_filter([
                '/::query\(|\bDB::/', '/(?<!Carbon)(?<!CarbonImmutable)::now\(\)->/', '/->(newQuery|fresh|refresh|load(Missing)?)\(/',
                '/\$\w+->\w+\(\)->(get|exists|pluck|where)\(/',
            ], static fn (string $asking): bool => preg_match($asking, $line) === 1);
            $found !== []
                && $asks[] = $file->getRelativePathname().':'.($n + 1).' '.trim($line);
        }
    }
    expect($asks)->toBe([]);
});

it('lets no method grow: those that are longer than forty lines get fewer', function (): void {
    $long = [];
    $parser = (new PhpParser\ParserFactory)->createForNewestSupportedVersion();
    $root = dirname(__DIR__);
    $files = (new Symfony\Component\Finder\Finder)->files()->name('*.php')
        ->in(array_map(static fn (string $d): string => "$root/$d", ['app', 'core', 'standins', 'launcher']));
    foreach ($files as $file) {
        $tree = $parser->parse($file->getContents()) ?? [];
        foreach ((new PhpParser\NodeFinder)->findInstanceOf($tree, PhpParser\Node\Stmt\ClassMethod::class) as $method) {
            $lines = $method->stmts === null || $method->stmts === []
                ? 0
                : end($method->stmts)->getEndLine() - $method->stmts[0]->getStartLine() + 1;
            $lines > 40 ? $long[] = "$lines {$file->getFilename()} {$method->name}" : null;
        }
    }
    rsort($long, SORT_NATURAL);
    // Who takes a long one apart lowers these; nobody raises them.
    expect(count($long))->toBeLessThanOrEqual(105, implode("\n", $long))->and((int) ($long[0] ?? 0))->toBeLessThanOrEqual(73);
});
