<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/** MariaDB of the instance's own, on loopback, with its data below the checkout. */
final readonly class Database
{
    public function __construct(private string $directory, private string $log, private Processes $processes)
    {
    }

    /** @param  list<string>  $extra  further server settings */
    public function start(int $port, string $password, array $extra = []): void
    {
        $data = "$this->directory/mysql";
        $user = posix_geteuid() === 0 ? ['--user=root'] : [];
        if (! is_dir("$data/mysql")) {
            Say::step('making the database', function () use ($data, $user): void {
                is_dir($data) || mkdir($data, 0700, true);
                Say::quietly([(string) Packages::program('mariadb-install-db'), '--no-defaults', "--datadir=$data", '--auth-root-authentication-method=normal', '--skip-test-db', ...$user], $this->directory);
            });
        }
        $init = "$this->directory/run/init.sql";
        file_put_contents($init, "CREATE DATABASE IF NOT EXISTS harbor CHARACTER SET utf8mb4;\nCREATE USER IF NOT EXISTS 'harbor'@'127.0.0.1';\nALTER USER 'harbor'@'127.0.0.1' IDENTIFIED BY '$password';\nGRANT ALL ON *.* TO 'harbor'@'127.0.0.1';\nALTER USER 'root'@'localhost' IDENTIFIED BY '$password';\n");
        chmod($init, 0600);
        // The path of a socket may have 107 bytes, so it does not stand below a deep checkout.
        $socket = sys_get_temp_dir().'/hpost-'.substr(hash('sha256', $this->directory), 0, 12).'.sock';
        $this->processes->start('mariadb', [
            (string) Packages::program('mariadbd'), '--no-defaults', ...$user, "--datadir=$data", '--bind-address=127.0.0.1', "--port=$port", "--socket=$socket",
            "--pid-file=$this->directory/run/mariadb.pid", "--init-file=$init", '--skip-name-resolve', '--character-set-server=utf8mb4', '--innodb-buffer-pool-size=768M',
            '--innodb-log-file-size=256M', '--performance-schema=OFF', '--max-connections=120', '--max-allowed-packet=64M', ...$extra,
        ], "$this->log/mariadb.log", $this->directory);
        $this->await($port, $password);
    }

    private function await(int $port, string $password): void
    {
        for ($until = microtime(true) + 60; microtime(true) < $until; usleep(100000)) {
            if (! $this->processes->isAlive('mariadb')) {
                break;
            }
            try {
                new \PDO("mysql:host=127.0.0.1;port=$port;dbname=harbor", 'harbor', $password);

                return;
            } catch (\PDOException) {
                // Not yet.
            }
        }
        $tail = implode("\n", array_slice(explode("\n", trim((string) @file_get_contents("$this->log/mariadb.log"))), -8));
        throw new Trouble("The database did not start. Its log, $this->log/mariadb.log, ends with:\n$tail");
    }
}
