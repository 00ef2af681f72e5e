<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/**
 * What has to be on the machine and in the checkout before anything starts; each is installed when it is missing or older than its list.
 */
final readonly class Packages
{
    private const PROGRAMS = [
        'mariadbd' => 'mariadb-server-core', 'mariadb-install-db' => 'mariadb-server-core',
        'my_print_defaults' => 'mariadb-client-core', 'mariadb-dump' => 'mariadb-client',
        'mariadb-binlog' => 'mariadb-client', 'nginx' => 'nginx', 'php-fpm8.2' => 'php8.2-fpm',
    ];

    private const EXTENSIONS = [
        'pdo_mysql' => 'php8.2-mysql', 'curl' => 'php8.2-curl', 'intl' => 'php8.2-intl', 'mbstring' => 'php8.2-mbstring',
        'dom' => 'php8.2-xml', 'gmp' => 'php8.2-gmp', 'zip' => 'php8.2-zip',
    ];

    private const FOR_TESTS = ['chromium' => 'chromium'];

    public function __construct(private string $root)
    {
    }

    /** The path of a program, also where an ordinary user's PATH does not lead. */
    public static function program(string $name): ?string
    {
        foreach ([...explode(':', (string) getenv('PATH')), '/usr/sbin', '/usr/local/sbin', '/sbin', '/usr/bin'] as $directory) {
            if (is_executable("$directory/$name") && is_file("$directory/$name")) {
                return "$directory/$name";
            }
        }

        return null;
    }

    /** A release has everything built: then only Debian's packages are looked at. */
    public function ensure(bool $tests): void
    {
        if (is_file("$this->root/RELEASE")) {
            $this->system(false);

            return;
        }
        $this->system($tests);
        $this->node();
        $this->php();
        $this->npm();
        $this->assets();
    }

    public function php(): void
    {
        if (self::program('composer') === null) {
            throw new Trouble('Composer is missing: install it with "apt-get install composer".');
        }
        $this->whenChanged(
            'composer',
            ['composer.json'],
            is_file("$this->root/vendor/autoload.php"),
            'installing PHP packages',
            fn () => Say::quietly(
                ['composer', 'install', '--no-interaction', '--no-progress', '--optimize-autoloader'],
                $this->root,
                ['COMPOSER_ALLOW_SUPERUSER' => '1'],
            ),
        );
        // Some packages come with folders that only their owner may enter.
        if (posix_geteuid() === 0) {
            exec('chmod -R go+rX '.escapeshellarg("$this->root/vendor"));
        }
    }

    private function system(bool $tests): void
    {
        $missing = [];
        foreach (self::PROGRAMS + ($tests ? self::FOR_TESTS : []) as $program => $package) {
            self::program($program) === null && $missing[] = $package;
        }
        foreach (self::EXTENSIONS as $extension => $package) {
            extension_loaded($extension) || $missing[] = $package;
        }
        $tests && ! is_dir('/usr/lib/python3/dist-packages/dns') && $missing[] = 'python3-dnspython';
        $tests && ! is_dir('/usr/lib/python3/dist-packages/scapy') && $missing[] = 'python3-scapy';
        $missing = array_values(array_unique($missing));
        if ($missing === []) {
            return;
        }
        $names = implode(' ', $missing);
        if (posix_geteuid() !== 0) {
            throw new Trouble(
                "These Debian packages are missing: $names\nInstall them as root: apt-get install --no-install-recommends $names",
            );
        }
        if (getenv('HPOST_REEXECUTED') === '1') {
            throw new Trouble("These Debian packages were installed and are still not found: $names");
        }
        Say::step("installing Debian packages: $names", function () use ($missing): void {
            $env = ['DEBIAN_FRONTEND' => 'noninteractive', 'RUNLEVEL' => '1'];
            Say::quietly(['apt-get', 'update', '-qq'], $this->root, $env);
            Say::quietly(['apt-get', 'install', '-y', '-qq', '--no-install-recommends', ...$missing], $this->root, $env);
        });
        // Extensions that were just installed are loaded by a new PHP only.
        putenv('HPOST_REEXECUTED=1');
        pcntl_exec(PHP_BINARY, $_SERVER['argv']);
    }

    private function node(): void
    {
        $version = self::program('node') === null ? '' : trim((string) shell_exec('node --version 2>/dev/null'));
        if (version_compare(ltrim($version, 'v'), '20.19', '<')) {
            throw new Trouble(
                'Node.js 20.19 or newer is needed to build styles and scripts, '
                    .($version === '' ? 'none is installed' : "here is $version")
                    .". Debian 12's own is 18; the Node.js project has packages of newer ones.",
            );
        }
    }

    private function npm(): void
    {
        $this->whenChanged(
            'npm',
            ['package.json'],
            is_dir("$this->root/node_modules/vite"),
            'installing Node packages',
            fn () => Say::quietly(['npm', 'install', '--no-audit', '--no-fund'], $this->root),
        );
    }

    private function assets(): void
    {
        $sources = [
            ...glob("$this->root/resources/{css,js}/*", GLOB_BRACE) ?: [],
            "$this->root/vite.config.js",
            "$this->root/package.json",
        ];
        $this->whenChanged(
            'assets',
            array_map(fn (string $f): string => substr($f, strlen($this->root) + 1), $sources),
            is_file("$this->root/public/build/manifest.json"),
            'building styles and scripts',
            fn () => Say::quietly(['npx', 'vite', 'build'], $this->root),
        );
    }

    /**
     * @param  list<string>  $files
     * @param  \Closure(): mixed  $work
     */
    private function whenChanged(string $name, array $files, bool $there, string $what, \Closure $work): void
    {
        $hash = hash('sha256', implode("\0", array_map(fn (string $f): string => $f.hash_file('sha256', "$this->root/$f"), $files)));
        $stamp = "$this->root/var/$name.stamp";
        if ($there && is_file($stamp) && file_get_contents($stamp) === $hash) {
            return;
        }
        Say::step($what, $work);
        file_put_contents($stamp, $hash);
    }
}
