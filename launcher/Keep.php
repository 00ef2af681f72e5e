<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/**
 * Keeps an instance's data: a backup while people work, its log between two backups, and both brought back on a machine that has nothing.
 * Everything is sealed for a recovery key of which this machine has only the public half.
 */
final readonly class Keep
{
    private const BACKUP = 'harbor-%s.vault';

    /** Of which data, and its number: data that was brought back counts its logs from the first again. */
    private const LOG = 'harbor-log-%s-%s.vault';

    /**
     * Tables whose rows nobody misses: they are emptied once everything is back. Until then they are needed, since the log behind a backup
     * changes and removes rows that were there when it was made.
     */
    private const PASSING = ['sessions', 'cache', 'cache_locks'];

    public function __construct(private Instance $instance, private Settings $settings)
    {
    }

    public function directory(): string
    {
        $set = $this->settings->get('BACKUP_DIRECTORY');
        $directory = $set !== '' ? $set : "{$this->instance->directory}/backups";
        if (! is_dir($directory) && ! @mkdir($directory, 0700, true)) {
            throw new Trouble("The folder for backups, $directory, is not there and cannot be made.");
        }

        return $directory;
    }

    public function makeKey(string $file): void
    {
        $public = Vault::makeKey($file);
        file_put_contents($this->publicFile(), $public."\n");
        $this->instance->handOver();
        Say::line("The recovery key is $file, its print ".Vault::fingerprint($public).'.');
        Say::line('Take it off this machine, to two places that are not burnt together: without it no backup can be opened, by anybody.');
    }

    private function publicFile(): string
    {
        return "{$this->instance->directory}/recovery.pub";
    }

    private function public(): string
    {
        return is_file($this->publicFile())
            ? trim((string) file_get_contents($this->publicFile()))
            : throw new Trouble('There is no recovery key yet. "./hpost backup --make-key FILE" makes one.');
    }

    /** @return array{file: string, bytes: int, seconds: float} */
    public function backup(): array
    {
        $begun = microtime(true);
        $file = $this->directory().'/'.sprintf(self::BACKUP, gmdate('Ymd-His'));
        $position = null;
        // Logs before the one that is open now bring nothing to this backup.
        $open = $this->settings->ownDatabase() ? explode("\t", $this->sql('SHOW MASTER STATUS')[0] ?? '')[0] : '';
        $written = $this->seal($file, fn (\Closure $take) => $this->dump(function (string $piece) use ($take, &$position): void {
            if ($position === null && preg_match("/MASTER_LOG_FILE='([^']+)', MASTER_LOG_POS=(\\d+)/", $piece, $m) === 1) {
                $position = "$m[1]:$m[2]";
            }
            $take($piece);
        }), ['APP_KEY' => $this->instance->setting('APP_KEY')], [
            'data' => $this->data(), 'log' => substr((string) strrchr($open, '.'), 1),
        ]);
        file_put_contents("{$this->instance->directory}/backup.json", json_encode([
            'file' => $file, 'at' => time(), 'bytes' => $written['bytes'], 'size' => filesize($file), 'log' => $position,
        ]));
        $this->instance->handOver();
        $this->rotate();

        return ['file' => $file, 'bytes' => $written['bytes'], 'seconds' => microtime(true) - $begun];
    }

    /**
     * What was written since: each log that the database has closed goes into a vault of its own, once.
     *
     * @return list<string> files that came
     */
    public function log(): array
    {
        $this->sql('FLUSH BINARY LOGS');
        $logs = array_map(static fn (string $row): string => explode("\t", $row)[0], $this->sql('SHOW BINARY LOGS'));
        array_pop($logs);
        $came = [];
        foreach ($logs as $log) {
            $file = $this->directory().'/'.sprintf(self::LOG, $this->data(), substr((string) strrchr($log, '.'), 1));
            $source = "{$this->instance->directory}/mysql/$log";
            if (is_file($file) || ! is_file($source)) {
                continue;
            }
            $this->seal($file, static function (\Closure $take) use ($source): void {
                $in = fopen($source, 'rb') ?: throw new Trouble("$source cannot be read.");
                while (! feof($in)) {
                    $take((string) fread($in, 1 << 20));
                }
            }, ['APP_KEY' => $this->instance->setting('APP_KEY')], ['log' => $log]);
            $came[] = $file;
        }

        return $came;
    }

    /**
     * Written beside, read back, and only then given its name: what has the name is whole.
     *
     * @param  \Closure(\Closure(string): void): void  $source
     * @param  array<string, string>  $secrets
     * @param  array<string, string>  $about
     * @return array{key: string, bytes: int, sha256: string}
     */
    private function seal(string $file, \Closure $source, array $secrets = [], array $about = []): array
    {
        $part = "$file.part";
        @unlink($part);
        try {
            $written = Vault::write($part, $this->public(), $source, $secrets, $about + ['made' => gmdate(DATE_ATOM)]);
            Vault::check($part, $written);
        } catch (\Throwable $e) {
            @unlink($part);
            throw $e;
        }
        rename($part, $file);

        return $written;
    }

    private function rotate(): void
    {
        $files = glob($this->directory().'/'.sprintf(self::BACKUP, '*-*')) ?: [];
        $files = array_values(array_filter($files, static fn (string $f): bool => ! str_contains($f, 'harbor-log-')));
        sort($files);
        $keep = array_slice($files, -(int) $this->settings->get('BACKUP_KEEP'));
        foreach (array_diff($files, $keep) as $old) {
            unlink($old);
        }
        $this->rotateLogs($keep);
    }

    /**
     * A log that ended before every backup that is kept of its data brings nothing back any more. Told by its number, not by a clock.
     *
     * @param  list<string>  $kept  backups
     */
    private function rotateLogs(array $kept): void
    {
        $since = [];
        foreach ($kept as $backup) {
            $about = Vault::head($backup)['about'];
            $data = is_string($about['data'] ?? null) ? $about['data'] : '';
            $log = is_string($about['log'] ?? null) ? (int) $about['log'] : 0;
            $since[$data] = min($since[$data] ?? PHP_INT_MAX, $log);
        }
        foreach (glob($this->directory().'/'.sprintf(self::LOG, '*', '*')) ?: [] as $file) {
            if (preg_match('/harbor-log-([0-9a-z]+)-(\d+)\.vault$/', $file, $m) === 1 && (int) $m[2] < ($since[$m[1]] ?? PHP_INT_MAX)) {
                unlink($file);
            }
        }
    }

    /** Which data this is: drawn once, and gone with it. */
    private function data(): string
    {
        $file = "{$this->instance->directory}/mysql/harbor-data";
        if (! is_dir(dirname($file))) {
            return 'apart';
        }
        if (! is_file($file)) {
            file_put_contents($file, bin2hex(random_bytes(6)));
        }

        return trim((string) file_get_contents($file));
    }

    /** @param  \Closure(string): void  $take */
    private function dump(\Closure $take): void
    {
        $own = $this->settings->ownDatabase();
        $command = [
            (string) Packages::program('mariadb-dump'), '--defaults-extra-file='.$this->credentials(), '--single-transaction', '--quick',
            '--skip-lock-tables', '--hex-blob', '--no-tablespaces', ...($own ? ['--master-data=2'] : []),
            $this->schema(),
        ];
        $process = proc_open($command, [['file', '/dev/null', 'r'], ['pipe', 'w'], ['pipe', 'w']], $pipes);
        $last = '';
        while ($process !== false && ! feof($pipes[1])) {
            $piece = (string) fread($pipes[1], 1 << 20);
            $last = substr($last.$piece, -200);
            $piece === '' || $take($piece);
        }
        $said = trim((string) stream_get_contents($pipes[2]));
        if ($process === false || proc_close($process) !== 0 || ! str_contains($last, '-- Dump completed')) {
            throw new Trouble("The database could not be written out whole: $said");
        }
    }

    /**
     * @param  ?string  $until  a time in UTC; what was written later is left out
     * @return list<string> what was done, a line each
     */
    public function restore(string $file, string $key, ?string $until): array
    {
        $about = Vault::head($file)['about'];
        $secrets = [];
        $position = null;
        $this->feed([], function (\Closure $take) use ($file, $key, &$secrets, &$position): void {
            $secrets = Vault::open($file, $key, function (string $piece) use ($take, &$position): void {
                if ($position === null && preg_match("/MASTER_LOG_FILE='([^']+)', MASTER_LOG_POS=(\\d+)/", $piece, $m) === 1) {
                    $position = [$m[1], (int) $m[2]];
                }
                $take($piece);
            });
        });
        $made = is_string($about['made'] ?? null) ? $about['made'] : '?';
        $done = ["the backup of $made"];
        if ($position !== null) {
            [$logs, $keys] = $this->replay(
                dirname($file), is_string($about['data'] ?? null) ? $about['data'] : '', $key, $position[0], $position[1], $until,
            );
            $secrets['APP_KEY'] ??= '';
            // The key may have been changed behind the backup: what was written with a later one is read with it.
            $later = implode(',', array_diff($keys, [$secrets['APP_KEY']]));
            $done[] = $logs === 0 ? 'no log behind it' : "$logs logs behind it".($until === null ? '' : ", until $until UTC");
        }
        foreach (self::PASSING as $table) {
            $this->sql("DELETE FROM {$this->schema()}.$table");
        }
        if (($secrets['APP_KEY'] ?? '') !== '') {
            $this->instance->set('APP_KEY', $secrets['APP_KEY']);
            $this->instance->set('APP_PREVIOUS_KEYS', $later ?? '');
        }

        if (! is_file($this->publicFile())) {
            // What is kept from now on opens with the same key.
            file_put_contents($this->publicFile(), Vault::publicOf($key)."\n");
        }

        return $done;
    }

    /** @return array{int, list<string>} logs, and the keys of the application at their ends */
    private function replay(string $directory, string $data, string $key, string $first, int $position, ?string $until): array
    {
        $number = (int) substr((string) strrchr($first, '.'), 1);
        $work = "{$this->instance->directory}/run/replay";
        exec('rm -rf '.escapeshellarg($work));
        mkdir($work, 0700);
        $files = $keys = [];
        for (; is_file($vault = "$directory/".sprintf(self::LOG, $data, sprintf('%06d', $number))); $number++) {
            $plain = "$work/".sprintf('log.%06d', $number);
            $out = fopen($plain, 'wb') ?: throw new Trouble("$plain cannot be written.");
            $keys[] = Vault::open($vault, $key, static function (string $piece) use ($out): void {
                fwrite($out, $piece);
            })['APP_KEY'] ?? '';
            fclose($out);
            $files[] = $plain;
        }
        if ($files !== []) {
            $this->feed([
                (string) Packages::program('mariadb-binlog'), '--no-defaults', "--start-position=$position",
                ...($until === null ? [] : ["--stop-datetime=$until"]), ...$files,
            ], null);
        }
        exec('rm -rf '.escapeshellarg($work));

        return [count($files), array_values(array_unique(array_filter($keys)))];
    }

    /**
     * @param  list<string>  $from  a program whose output goes into the database
     * @param  (\Closure(\Closure(string): void): void)|null  $source  or what calls with each piece
     */
    private function feed(array $from, ?\Closure $source): void
    {
        $client = [
            (string) Packages::program('mariadb'), '--defaults-extra-file='.$this->credentials(), '--binary-mode',
            '--max-allowed-packet=64M',
            $this->schema(),
        ];
        $log = "{$this->instance->directory}/run/restore.log";
        $line = implode(' ', array_map(escapeshellarg(...), $client));
        $all = $from === [] ? $line : implode(' ', array_map(escapeshellarg(...), $from))." | $line";
        $process = proc_open(
            ['bash', '-c', "set -o pipefail; $all"],
            [['pipe', 'r'], ['file', $log, 'w'], ['file', $log, 'a']],
            $pipes,
            null,
            ['TZ' => 'UTC'] + getenv(),
        );
        if ($process === false) {
            throw new Trouble('The database client could not be started.');
        }
        $source === null || $source(static function (string $piece) use ($pipes): void {
            for ($at = 0; $at < strlen($piece); $at += $sent) {
                $sent = @fwrite($pipes[0], substr($piece, $at, 1 << 20));
                if ($sent === false || $sent === 0) {
                    throw new Trouble('The database took no more.');
                }
            }
        });
        fclose($pipes[0]);
        if (proc_close($process) !== 0) {
            throw new Trouble('The database refused a part of it: '.trim((string) file_get_contents($log)));
        }
    }

    /** @return list<string> rows, their values apart by tabs */
    private function sql(string $statement): array
    {
        $out = Say::quietly(
            [(string) Packages::program('mariadb'), '--defaults-extra-file='.$this->credentials(), '-N', '-B', '-e', $statement],
            $this->instance->directory,
        );

        return array_values(array_filter(explode("\n", trim($out)), static fn (string $l): bool => $l !== ''));
    }

    private function schema(): string
    {
        return $this->settings->ownDatabase() ? 'harbor' : $this->settings->get('DB_NAME');
    }

    /** A file for the database's programs, so that no password stands in a list of processes. */
    private function credentials(): string
    {
        $file = "{$this->instance->directory}/run/client.cnf";
        $own = $this->settings->ownDatabase();
        $lines = $own
            ? ['user=root', "password={$this->instance->rootPassword()}", "socket={$this->instance->sockets()}/mariadb.sock"]
            : [
                'user='.$this->settings->get('DB_KEEPER_USERNAME'), 'password="'
                    .addcslashes($this->settings->get('DB_KEEPER_PASSWORD'), '"\\').'"',
                'host='.$this->settings->get('DB_HOST'), 'port='.$this->settings->get('DB_PORT'),
                ...($this->settings->get('DB_TLS_CA') === '' ? []
                    : ['ssl-ca='.$this->settings->get('DB_TLS_CA'), 'ssl-verify-server-cert']),
            ];
        touch($file);
        chmod($file, 0600);
        file_put_contents($file, "[client]\n".implode("\n", $lines)."\n");

        return $file;
    }
}
