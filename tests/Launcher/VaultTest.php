<?php

declare(strict_types=1);

use HarborPost\Launcher\Release;
use HarborPost\Launcher\Settings;
use HarborPost\Launcher\Trouble;
use HarborPost\Launcher\Units;
use HarborPost\Launcher\Vault;

foreach (['Trouble', 'Say', 'Packages', 'Ports', 'Processes', 'Account', 'Database', 'Settings', 'Instance', 'Vault', 'Doctor', 'Units',
    'Release'] as $class) {
    require_once __DIR__."/../../launcher/$class.php";
}

beforeEach(function (): void {
    $this->directory = sys_get_temp_dir().'/hpost-vault-'.bin2hex(random_bytes(4));
    mkdir($this->directory);
    $this->key = "$this->directory/key";
    $this->public = Vault::makeKey($this->key);
    $this->vault = "$this->directory/v";
    $this->text = implode("\n", array_map(static fn (int $i): string => "row $i ".hash('sha256', (string) $i), range(1, 20_000)));
    $this->write = fn (): array => Vault::write($this->vault, $this->public, function (Closure $take): void {
        foreach (str_split($this->text, 70_001) as $piece) {
            $take($piece);
        }
    }, ['APP_KEY' => 'base64:secret'], ['made' => 'now']);
    $this->open = function (?string $key = null): array {
        $read = '';
        $secrets = Vault::open($this->vault, $key ?? $this->key, static function (string $piece) use (&$read): void {
            $read .= $piece;
        });

        return [$read, $secrets];
    };
});

afterEach(function (): void {
    exec('rm -rf '.escapeshellarg($this->directory));
});

it('seals for a recovery key, and opens with it alone', function (): void {
    $written = ($this->write)();
    Vault::check($this->vault, $written);
    expect(($this->open)())->toBe([$this->text, ['APP_KEY' => 'base64:secret']])
        ->and(Vault::head($this->vault)['about'])->toBe(['made' => 'now'])
        ->and(fileperms($this->vault) & 0o777)->toBe(0o600)->and(fileperms($this->key) & 0o777)->toBe(0o600)
        ->and((string) file_get_contents($this->vault))->not->toContain('row 1 ')->not->toContain('base64:secret')
        ->and(filesize($this->vault))->toBeLessThan(strlen($this->text));
    $other = "$this->directory/other";
    Vault::makeKey($other);
    expect(fn () => ($this->open)($other))->toThrow(Trouble::class, 'was sealed for the key')
        ->and(fn () => ($this->open)($this->vault))->toThrow(Trouble::class, 'no recovery key')
        ->and(fn () => Vault::makeKey($this->key))->toThrow(Trouble::class, 'never written over')
        ->and(fn () => ($this->write)())->toThrow(Trouble::class, 'cannot be written');
});

it('finds every place in which a file was altered, cut off or added to', function (): void {
    ($this->write)();
    $whole = (string) file_get_contents($this->vault);
    $wrong = [substr($whole, 0, -1), substr($whole, 0, intdiv(strlen($whole), 2)), "$whole\0", $whole.$whole, substr($whole, 1), ''];
    for ($i = 0; $i < 200; $i++) {
        $at = (int) (strlen($whole) * $i / 200);
        $wrong[] = substr_replace($whole, chr(ord($whole[$at]) ^ 0x40), $at, 1);
    }
    $opened = 0;
    foreach ($wrong as $bytes) {
        file_put_contents($this->vault, $bytes);
        try {
            [$read, $secrets] = ($this->open)();
            // What only people read may be changed in the line in front; data and secrets never.
            expect($read === $this->text && $secrets === ['APP_KEY' => 'base64:secret'])->toBeTrue();
            $opened++;
        } catch (Trouble|JsonException|SodiumException) {
        }
    }
    expect($opened)->toBeLessThan(3);
});

it('reads settings, says what is wrong with each, and guesses what was meant', function (): void {
    $file = "$this->directory/s";
    $read = function (string $text) use ($file): Settings {
        file_put_contents($file, $text);

        return Settings::read($file);
    };
    expect($read("# nothing\n")->get('PORT'))->toBe('8080')
        ->and($read("PORT = 9000\nHOSTS=\"names.quay.example\"")->forApplication()['APP_URL'])->toBe('http://names.quay.example:9000')
        ->and(Settings::read("$this->directory/none")->ownDatabase())->toBeTrue();
    foreach ([
        'PROT=1' => 'PORT was meant', 'what' => 'no NAME=value', 'PORT=0' => 'no port', 'ADDRESS=quay' => 'no IP address',
        'TLS_KEY=/nowhere' => 'go together', 'TLS_CERTIFICATE=/nowhere' => 'cannot be read', 'DB_HOST=db' => 'are needed too',
        'LOG=loud' => 'neither text nor json', 'BACKUP_KEEP=0' => 'no number', 'DB_MEMORY=much' => 'no size',
        'HOSTS=a;b' => 'no name of a host',
        'PROXIES=everybody' => 'no address',
    ] as $line => $words) {
        expect(fn () => $read((string) $line))->toThrow(Trouble::class, $words);
    }
    foreach (array_keys(Settings::KNOWN) as $name) {
        expect(Settings::template())->toContain("# $name=");
    }
});

it('writes units that systemd takes', function (): void {
    $units = (new Units(dirname(__DIR__, 2), Settings::read("$this->directory/none"), '/srv/backups'))->all('harbor-post');
    expect(array_keys($units))->toHaveCount(5);
    foreach ($units as $name => $text) {
        expect($text)->not->toMatch('/\{[a-z]+\}/');
        file_put_contents("$this->directory/$name", $text);
    }
    expect($units['harbor-post.service'])->toContain('NoNewPrivileges=yes')
        ->toContain('ReadWritePaths='.dirname(__DIR__, 2).'/var /srv/backups');
    if (is_executable('/usr/bin/systemd-analyze')) {
        exec('systemd-analyze verify --man=no '.implode(' ',
            array_map(fn (string $n): string => escapeshellarg("$this->directory/$n"), array_keys($units))).' 2>&1', $said);
        // The account and the folder are another machine's.
        expect(array_filter($said, static fn (string $l): bool => preg_match('/Unknown|Invalid|Failed to parse|not executable/', $l) === 1))
            ->toBe([]);
    }
});

it('lists what a release holds, and its sums', function (): void {
    mkdir("$this->directory/t/vendor/composer", 0700, true);
    file_put_contents("$this->directory/t/a.php", 'x');
    file_put_contents("$this->directory/t/vendor/composer/installed.json",
        json_encode(['packages' => [['name' => 'b/c', 'version' => 'v1.2', 'license' => ['MIT']]]]));
    file_put_contents("$this->directory/npm", json_encode(['packages' => ['' => ['name' => 'own'],
        'node_modules/@d/e' => ['version' => '3.4', 'license' => 'MIT']]]));
    $list = json_decode(Release::contents("$this->directory/t", "$this->directory/npm", '1'), true);
    expect(array_column($list['components'], 'purl'))->toBe(['pkg:composer/b/c@1.2', 'pkg:npm/%40d/e@3.4'])->and($list['specVersion'])
        ->toBe('1.5');
    file_put_contents("$this->directory/t/CHECKSUMS", Release::checksums("$this->directory/t"));
    exec('cd '.escapeshellarg("$this->directory/t").' && sha256sum --check --quiet CHECKSUMS', $said, $status);
    expect($status)->toBe(0)->and((string) file_get_contents("$this->directory/t/CHECKSUMS"))->toContain('  a.php');
});
