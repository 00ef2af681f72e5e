<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/**
 * MariaDB of the instance's own, on loopback, with its data below the checkout. Three accounts: root, by the socket's owner alone and with
 * a password; the keeper, who makes tables; and the application, which reads and writes rows of its own schema and adds to history only.
 */
final readonly class Database
{
    public const KEEPER = 'keeper';

    public function __construct(
        private string $directory,
        private string $log,
        private Processes $processes,
        private Account $account,
        private string $sockets,
    ) {
    }

    /**
     * @param  array{app: string, keeper: string, root: string}  $passwords
     * @param  list<string>  $extra  further server settings
     * @param  bool  $whole  the application may also make and drop tables, as tests and measurements do
     */
    public function start(int $port, array $passwords, array $extra = [], bool $whole = false): void
    {
        $data = "$this->directory/mysql";
        $user = posix_geteuid() === 0 && $this->account->uid === null ? ['--user=root'] : [];
        is_dir($data) || mkdir($data, 0700, true);
        $this->account->own($data);
        if (! is_dir("$data/mysql")) {
            Say::step('making the database', fn (): string => Say::quietly(
                [
                    ...$this->account->prefix(), (string) Packages::program('mariadb-install-db'), '--no-defaults', "--datadir=$data",
                    '--auth-root-authentication-method=normal', '--skip-test-db', ...$user,
                ],
                $this->directory,
            ));
        }
        $init = "$this->directory/run/init.sql";
        file_put_contents($init, $this->statements($passwords, $whole));
        chmod($init, 0600);
        $this->account->own($init);
        $this->processes->start('mariadb', [
            ...$this->account->prefix(), (string) Packages::program('mariadbd'), '--no-defaults', ...$user, "--datadir=$data",
            '--bind-address=127.0.0.1', "--port=$port", "--socket=$this->sockets/mariadb.sock",
            "--pid-file=$this->directory/run/mariadb.pid", "--init-file=$init", '--skip-name-resolve', '--character-set-server=utf8mb4',
            '--innodb-buffer-pool-size=768M',
            '--innodb-log-file-size=256M', '--performance-schema=OFF', '--max-connections=120', '--max-allowed-packet=64M',
            '--local-infile=0', '--secure-file-priv='."$this->directory/run", ...$extra,
        ], "$this->log/mariadb.log", $this->directory);
        $this->await($port, $passwords['keeper']);
    }

    /** Rows of every table, and of history only what is added: after every change of the tables. */
    public function grant(int $port, string $keeper): void
    {
        $pdo = self::connect($port, $keeper);
        $tables = $pdo->query('SHOW TABLES') ?: throw new Trouble('the database lists no tables');
        foreach ($tables->fetchAll(\PDO::FETCH_COLUMN) as $table) {
            $may = $table === 'history' ? 'SELECT, INSERT' : 'SELECT, INSERT, UPDATE, DELETE';
            $pdo->exec("GRANT $may ON harbor.`$table` TO 'harbor'@'127.0.0.1'");
        }
    }

    /** @param  array{app: string, keeper: string, root: string}  $passwords */
    private function statements(array $passwords, bool $whole): string
    {
        $host = (string) gethostname();
        $lines = ['CREATE DATABASE IF NOT EXISTS harbor CHARACTER SET utf8mb4'];
        foreach (['127.0.0.1', '::1', '%', $host, strtolower($host)] as $from) {
            $lines[] = "DROP USER IF EXISTS 'root'@'$from'";
        }
        foreach (['localhost', $host, strtolower($host), '%'] as $from) {
            $lines[] = "DROP USER IF EXISTS ''@'$from'";
        }
        $lines[] = "ALTER USER 'root'@'localhost' IDENTIFIED BY '{$passwords['root']}'";
        foreach (['harbor' => $passwords['app'], self::KEEPER => $passwords['keeper']] as $name => $password) {
            $lines[] = "CREATE USER IF NOT EXISTS '$name'@'127.0.0.1' IDENTIFIED BY '$password'";
            $lines[] = "ALTER USER '$name'@'127.0.0.1' IDENTIFIED BY '$password'";
        }
        $lines[] = "GRANT ALL ON harbor.* TO '".self::KEEPER."'@'127.0.0.1' WITH GRANT OPTION";
        // What an older start had granted is taken back first.
        $lines[] = "REVOKE ALL PRIVILEGES, GRANT OPTION FROM 'harbor'@'127.0.0.1'";
        $lines[] = $whole
            ? "GRANT ALL ON harbor.* TO 'harbor'@'127.0.0.1'"
            : "GRANT CREATE TEMPORARY TABLES ON harbor.* TO 'harbor'@'127.0.0.1'";

        return implode(";\n", $lines).";\n";
    }

    private static function connect(int $port, string $keeper): \PDO
    {
        return new \PDO(
            "mysql:host=127.0.0.1;port=$port;dbname=harbor",
            self::KEEPER,
            $keeper,
            [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION],
        );
    }

    private function await(int $port, string $keeper): void
    {
        for ($until = microtime(true) + 60; microtime(true) < $until; usleep(100000)) {
            if (! $this->processes->isAlive('mariadb')) {
                break;
            }
            try {
                self::connect($port, $keeper);

                return;
            } catch (\PDOException) {
                // Not yet.
            }
        }
        $tail = implode("\n", array_slice(explode("\n", trim((string) @file_get_contents("$this->log/mariadb.log"))), -8));
        throw new Trouble("The database did not start. Its log, $this->log/mariadb.log, ends with:\n$tail");
    }
}
