<?php

declare(strict_types=1);

/*
 * The drill: people write, a backup is taken, they write on, the log is kept, and the machine's data is gone with everything that ran on
 * it.
 * What was acknowledged before the log was kept must be there again, on a machine that has nothing but the files and the recovery key.
 */

beforeEach(function (): void {
    $this->root = dirname(__DIR__, 2);
    $this->name = 'drill'.bin2hex(random_bytes(2));
    $this->var = "$this->root/var/$this->name";
    $this->apart = sys_get_temp_dir()."/$this->name";
    mkdir($this->apart);
    file_put_contents("$this->apart/conf", 'PORT='.random_int(21_000, 29_000)."\nDB_MEMORY=64M\nBACKUP_DIRECTORY=$this->apart/kept\n");
    // What the tests themselves run with is not for it.
    $this->env = array_intersect_key(getenv(), ['PATH' => 1, 'HOME' => 1, 'TMPDIR' => 1, 'LANG' => 1]);
    $this->hpost = function (string ...$arguments): array {
        $process = proc_open(
            [PHP_BINARY, "$this->root/hpost", ...$arguments, '--instance', $this->name, '--settings', "$this->apart/conf"],
            [['file', '/dev/null', 'r'], ['pipe', 'w'], ['redirect', 1]],
            $pipes,
            $this->root,
            $this->env,
        );
        $said = (string) stream_get_contents($pipes[1]);

        return [proc_close($process), $said];
    };
    $this->serve = function (): void {
        $this->served = proc_open(
            [PHP_BINARY, "$this->root/hpost", 'serve', '--instance', $this->name, '--settings', "$this->apart/conf"],
            [['file', '/dev/null', 'r'], ['file', "$this->apart/log", 'w'], ['file', "$this->apart/log", 'a']],
            $pipes,
            $this->root,
            $this->env,
        );
        for ($i = 0; $i < 600 && ! str_contains((string) file_get_contents("$this->apart/log"), 'Harbor Post: http'); $i++) {
            usleep(100_000);
        }
        expect((string) file_get_contents("$this->apart/log"))->toContain('Harbor Post: http');
    };
    $this->end = function (int $signal): void {
        foreach ((array) json_decode((string) @file_get_contents("$this->var/run/processes.json"), true) as $one) {
            // With all that it started: each has a session of its own.
            if ($one['pid'] > 1) {
                posix_kill(-$one['pid'], $signal);
                posix_kill($one['pid'], $signal);
            }
        }
        proc_close($this->served);
    };
    $this->setting = function (string $key): string {
        preg_match("/^$key=\"(.*)\"$/m", (string) @file_get_contents("$this->root/var/$this->name.env"), $m);

        return $m[1] ?? '';
    };
    $this->database = fn (): PDO => new PDO(
        'mysql:host=127.0.0.1;dbname=harbor;port='.($this->setting)('DB_PORT'),
        ($this->setting)('DB_USERNAME'),
        ($this->setting)('DB_PASSWORD'),
    );
});

afterEach(function (): void {
    ($this->hpost)('stop');
    exec('rm -rf '.escapeshellarg($this->var).' '.escapeshellarg("$this->root/var/$this->name.env").' '.escapeshellarg($this->apart));
});

it('brings everything back that was acknowledged, on a machine that has nothing', function (): void {
    ($this->serve)();
    $key = ($this->setting)('APP_KEY');
    expect(($this->hpost)('backup')[1])->toContain('There is no recovery key yet')
        ->and(($this->hpost)('backup', '--make-key', "$this->apart/key")[0])->toBe(0);
    $cipher = fn (string $named): Illuminate\Encryption\Encrypter => new Illuminate\Encryption\Encrypter(
        base64_decode(substr($named, strlen('base64:'))), 'AES-256-CBC',
    );
    ($this->database)()->prepare('INSERT INTO transfer_keys (id, name, secret) VALUES (?, ?, ?)')
        ->execute(['D'.str_repeat('0', 25), 'drill.', $cipher($key)->encryptString('drilled')]);
    // One who writes all the time, and notes what was acknowledged.
    file_put_contents("$this->apart/write.php", <<<'PHP'
        <?php
        $db = new PDO($argv[1], $argv[2], $argv[3], [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION]);
        $noted = fopen($argv[4], 'a');
        for ($i = 0; ; $i++) {
            $id = sprintf('W%025d', $i);
            $db->prepare('INSERT INTO tenants (id, name) VALUES (?, ?)')->execute([$id, "writer $i"]);
            fwrite($noted, "$id\n");
            usleep(1000);
        }
        PHP);
    $writer = proc_open(
        [
            PHP_BINARY, "$this->apart/write.php", 'mysql:host=127.0.0.1;dbname=harbor;port='.($this->setting)('DB_PORT'),
            ($this->setting)('DB_USERNAME'), ($this->setting)('DB_PASSWORD'), "$this->apart/noted",
        ],
        [['file', '/dev/null', 'r'], ['file', "$this->apart/writer", 'w'], ['file', "$this->apart/writer", 'a']],
        $pipes,
    );
    usleep(600_000);
    // What passes changes all the time, on either side of the backup.
    $passing = ($this->database)();
    $passing->exec("INSERT INTO cache_locks (`key`, owner, expiration) VALUES ('test-lock', 'one', 2000000000)");
    $passing->exec("INSERT INTO sessions (id, payload, last_activity) VALUES ('test-session', 'x', 1), ('test-other', 'x', 1)");
    [$status, $said] = ($this->hpost)('backup');
    expect($status)->toBe(0, $said)->and($said)->toContain('read back and whole');
    usleep(600_000);
    $passing->exec("DELETE FROM cache_locks WHERE `key` = 'test-lock'");
    $passing->exec("UPDATE sessions SET last_activity = 2 WHERE id = 'test-session'");
    $passing->exec("DELETE FROM sessions WHERE id = 'test-other'");
    $acknowledged = file("$this->apart/noted", FILE_IGNORE_NEW_LINES);
    [$status, $said] = ($this->hpost)('backup', '--log');
    expect($status)->toBe(0, $said)->and($said)->toContain('harbor-log-');
    usleep(200_000);
    proc_terminate($writer, SIGKILL);
    ($this->end)(SIGKILL);
    expect(count($acknowledged))->toBeGreaterThan(50);
    // The disk is lost, with the secrets on it.
    exec('rm -rf '.escapeshellarg($this->var).' '.escapeshellarg("$this->root/var/$this->name.env"));
    $vault = glob("$this->apart/kept/harbor-2*.vault")[0];
    // A damaged backup brings nothing back, and says so.
    $whole = (string) file_get_contents($vault);
    $damaged = "$this->apart/damaged.vault";
    file_put_contents($damaged, substr_replace($whole, 'x', strlen($whole) - 60, 1));
    [$status, $said] = ($this->hpost)('restore', $damaged, '--key', "$this->apart/key");
    expect($status)->toBe(1)->and($said)->toContain('damaged or cut off')->and(is_dir("$this->var/mysql"))->toBeFalse();
    [$status, $said] = ($this->hpost)('restore', $vault, '--key', "$this->apart/key");
    expect($status)->toBe(0, $said)->and($said)->toContain('Everything is back');
    // What is there is not written over.
    expect(($this->hpost)('restore', $vault, '--key', "$this->apart/key")[1])->toContain('There is data already');
    ($this->serve)();
    $there = ($this->database)()->query('SELECT id FROM tenants')->fetchAll(PDO::FETCH_COLUMN);
    expect(($this->database)()->query("SELECT COUNT(*) FROM sessions WHERE id LIKE 'test-%'")->fetchColumn())->toBe(0);
    expect(array_values(array_diff($acknowledged, $there)))->toBe([])
        ->and(($this->setting)('APP_KEY'))->toBe($key);
    $port = (string) parse_url(($this->setting)('APP_URL'), PHP_URL_PORT);
    $ready = json_decode((string) file_get_contents("http://127.0.0.1:$port/ready"), true);
    expect($ready['ready'])->toBeTrue()
        ->and(array_column(json_decode(($this->hpost)('doctor', '--json')[1], true), 'state'))->not->toContain('wrong');
    // Another key, behind the backup: not while it runs, and once it is changed the old one stands nowhere.
    expect(($this->hpost)('rekey')[1])->toContain('end it first');
    ($this->database)()->exec("INSERT INTO transfer_keys (id, name, secret) VALUES ('K".str_repeat('0', 25)."', 'gone.', 'no cipher')");
    ($this->end)(SIGTERM);
    [$status, $said] = ($this->hpost)('rekey');
    expect($status)->toBe(1)->and($said)->toContain('cannot be read with any key')->and(($this->setting)('APP_PREVIOUS_KEYS'))->toBe($key);
    $next = ($this->setting)('APP_KEY');
    ($this->serve)();
    ($this->database)()->exec("DELETE FROM transfer_keys WHERE secret = 'no cipher'");
    ($this->end)(SIGTERM);
    [$status, $said] = ($this->hpost)('rekey');
    expect($status)->toBe(0, $said)->and($said)->toContain('Make a backup')->and(($this->setting)('APP_KEY'))->toBe($next)
        ->and($next)->not->toBe($key)->and(($this->setting)('APP_PREVIOUS_KEYS'))->toBe('');
    ($this->serve)();
    // What came behind a restore is kept beside what came before it: both lives of the data count their logs from the first.
    $secret = fn (): string => (string) ($this->database)()->query("SELECT secret FROM transfer_keys WHERE name = 'drill.'")->fetchColumn();
    expect($cipher($next)->decryptString($secret()))->toBe('drilled');
    [$status, $said] = ($this->hpost)('backup');
    expect($status)->toBe(0, $said);
    ($this->database)()->exec("INSERT INTO tenants (id, name) VALUES ('L".str_repeat('0', 25)."', 'behind the second backup')");
    ($this->hpost)('backup', '--log');
    ($this->end)(SIGKILL);
    exec('rm -rf '.escapeshellarg($this->var).' '.escapeshellarg("$this->root/var/$this->name.env"));
    $vaults = glob("$this->apart/kept/harbor-2*.vault");
    // Two backups of two lives: the logs of both are needed, and stand.
    expect(count(array_unique(array_map(
        fn (string $f): string => explode('-', basename($f))[2], glob("$this->apart/kept/harbor-log-*") ?: [],
    ))))->toBe(2);
    [$status, $said] = ($this->hpost)('restore', (string) end($vaults), '--key', "$this->apart/key");
    expect($status)->toBe(0, $said);
    ($this->serve)();
    expect(($this->database)()->query("SELECT COUNT(*) FROM tenants WHERE name = 'behind the second backup'")->fetchColumn())->toBe(1)
        ->and($cipher($next)->decryptString($secret()))->toBe('drilled');
    // The first backup, with the logs of its own life: what another life wrote is not in it.
    ($this->end)(SIGKILL);
    exec('rm -rf '.escapeshellarg($this->var).' '.escapeshellarg("$this->root/var/$this->name.env"));
    [$status, $said] = ($this->hpost)('restore', $vault, '--key', "$this->apart/key");
    expect($status)->toBe(0, $said);
    ($this->serve)();
    expect(($this->database)()->query("SELECT COUNT(*) FROM tenants WHERE name = 'behind the second backup'")->fetchColumn())->toBe(0)
        ->and($cipher($key)->decryptString($secret()))->toBe('drilled');
    // Of what is kept no longer the logs go too: two backups more, and the first life is nobody's any more.
    file_put_contents("$this->apart/conf", "BACKUP_KEEP=1\n", FILE_APPEND);
    ($this->hpost)('backup', '--log');
    sleep(1);
    [$status, $said] = ($this->hpost)('backup');
    expect($status)->toBe(0, $said)->and(glob("$this->apart/kept/harbor-2*.vault"))->toHaveCount(1)
        ->and(glob("$this->apart/kept/harbor-log-*"))->toBe([]);
    // A database of a newer version is left alone.
    ($this->database)()->exec("INSERT INTO migrations (migration, batch) VALUES ('2099_01_01_000000_tomorrow', 99)");
    ($this->end)(SIGTERM);
    [$status, $said] = ($this->hpost)('serve');
    expect($status)->toBe(1)->and($said)->toContain('newer version');
});
