<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/** One archive with everything built, that is unpacked and started on a machine without a network; what is inside stands in a list. */
final readonly class Release
{
    /** What is for making the product, and not for running it. */
    private const LEFT_OUT = ['tests', 'bench', 'docs/screenshots', '.ci', 'phpunit.xml', 'phpstan.neon', 'phpstan-app.neon',
        'phpstan-baseline.neon', 'pint.json', 'playwright.config.mjs', 'var'];

    public function __construct(private string $root)
    {
    }

    public function make(string $folder): int
    {
        if (! is_dir($folder) && ! @mkdir($folder, 0755, true)) {
            throw new Trouble("The folder $folder is not there and cannot be made.");
        }
        (new Packages($this->root))->ensure(false);
        $commit = trim((string) shell_exec('git -C '.escapeshellarg($this->root).' rev-parse --short=12 HEAD 2>/dev/null'));
        if ($commit === '') {
            throw new Trouble('A release is made from a checkout of the sources.');
        }
        $version = gmdate('Y.m.d').'-'.$commit;
        $work = sys_get_temp_dir().'/hpost-release-'.bin2hex(random_bytes(4));
        $tree = "$work/harbor-post-$version";
        mkdir($tree, 0755, true);
        try {
            Say::step('taking the sources', fn (): string => Say::quietly(
                ['bash', '-c', 'set -o pipefail; git archive HEAD | tar -x -C '.escapeshellarg($tree)],
                $this->root,
            ));
            foreach (self::LEFT_OUT as $path) {
                exec('rm -rf '.escapeshellarg("$tree/$path"));
            }
            Say::step('taking what is built', function () use ($tree): void {
                foreach (['vendor', 'public/build'] as $path) {
                    exec('mkdir -p '.escapeshellarg(dirname("$tree/$path")));
                    Say::quietly(['cp', '-a', "$this->root/$path", "$tree/$path"], $this->root);
                }
                Say::quietly(
                    ['composer', 'install', '--no-dev', '--no-interaction', '--no-progress', '--optimize-autoloader'],
                    $tree,
                    ['COMPOSER_ALLOW_SUPERUSER' => '1'],
                );
            });
            file_put_contents("$tree/RELEASE", "$version\n");
            file_put_contents("$tree/sbom.cdx.json", self::contents($tree, "$this->root/package-lock.json", $version));
            file_put_contents("$tree/CHECKSUMS", self::checksums($tree));
            $archive = rtrim($folder, '/')."/harbor-post-$version.tar.gz";
            Say::step('packing', fn (): string => Say::quietly(
                ['tar', '--sort=name', '--owner=0', '--group=0', '--numeric-owner', '-czf', $archive, "harbor-post-$version"],
                $work,
            ));
            file_put_contents("$archive.sha256", hash_file('sha256', $archive).'  '.basename($archive)."\n");
            Say::line($archive);
        } finally {
            exec('rm -rf '.escapeshellarg($work));
        }

        return 0;
    }

    /** As sha256sum --check reads it. */
    public static function checksums(string $tree): string
    {
        $lines = [];
        foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator($tree, \FilesystemIterator::SKIP_DOTS)) as $file) {
            if ($file instanceof \SplFileInfo && $file->isFile() && ! $file->isLink()) {
                $path = substr($file->getPathname(), strlen($tree) + 1);
                $lines[$path] = hash_file('sha256', $file->getPathname())."  $path";
            }
        }
        ksort($lines);
        unset($lines['CHECKSUMS']);

        return implode("\n", $lines)."\n";
    }

    /** What is inside, as CycloneDX 1.5: the PHP packages as installed, and the packages from which styles and scripts were built. */
    public static function contents(string $tree, string $npm, string $version): string
    {
        $components = [];
        $installed = json_decode((string) @file_get_contents("$tree/vendor/composer/installed.json"), true);
        foreach (is_array($installed) && is_array($installed['packages'] ?? null) ? $installed['packages'] : [] as $p) {
            $components[] = self::component('composer', (string) $p['name'], ltrim((string) $p['version'], 'v'),
                (array) ($p['license'] ?? []));
        }
        $locked = json_decode((string) @file_get_contents($npm), true);
        foreach (is_array($locked) && is_array($locked['packages'] ?? null) ? $locked['packages'] : [] as $path => $p) {
            $name = preg_replace('#^(.*/)?node_modules/#', '', (string) $path);
            if ($path !== '' && is_string($name) && is_string($p['version'] ?? null)) {
                $components[] = self::component('npm', $name, $p['version'], isset($p['license']) ? [(string) $p['license']] : []);
            }
        }
        usort($components, static fn (array $a, array $b): int => strcmp($a['purl'], $b['purl']));

        return json_encode([
            'bomFormat' => 'CycloneDX', 'specVersion' => '1.5', 'version' => 1,
            'metadata' => ['component' => ['type' => 'application', 'name' => 'harbor-post', 'version' => $version]],
            'components' => $components,
        ], JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES)."\n";
    }

    /**
     * @param  array<mixed>  $licences
     * @return array{type: string, name: string, version: string, purl: string, licenses: list<array{license: array{name: string}}>}
     */
    private static function component(string $kind, string $name, string $version, array $licences): array
    {
        return [
            'type' => 'library', 'name' => $name, 'version' => $version,
            'purl' => "pkg:$kind/".str_replace('@', '%40', $name)."@$version",
            'licenses' => array_map(
                static fn (mixed $l): array => ['license' => ['name' => is_string($l) ? $l : '?']],
                array_values($licences),
            ),
        ];
    }
}
