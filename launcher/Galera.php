<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/** Three nodes of MariaDB on loopback that hold the same rows (Galera), and beside each a program that says whether it may be asked. */
final readonly class Galera
{
    public const NODES = ['db1', 'db2', 'db3'];

    private const LIBRARY = '/usr/lib/galera/libgalera_smm.so';

    /** Seconds for which a node that ended stays away: who is back before the others have noticed disturbs how they close ranks. */
    public const STAYS_AWAY = 8;

    /** Seconds in which a node that is started has to be one of them, copying all rows first if need be. */
    private const JOINS = 120;

    public function __construct(private Instance $instance)
    {
    }

    /** @return list<string> ports that the nodes need beside the one they are asked at */
    private static function doors(string $node): array
    {
        return ["$node-group", "$node-ist", "$node-sst", "$node-health"];
    }

    /** What Debian's packages lay where it is not looked for: the scripts that copy all rows to a node that joins. */
    public static function ensure(string $root): string
    {
        $missing = [];
        is_file(self::LIBRARY) || $missing[] = 'galera-4';
        foreach (['rsync' => 'rsync', 'haproxy' => 'haproxy', 'ss' => 'iproute2'] as $program => $package) {
            Packages::program($program) === null && $missing[] = $package;
        }
        $names = implode(' ', $missing);
        if ($missing !== [] && posix_geteuid() !== 0) {
            throw new Trouble("For several machines these Debian packages are missing: $names");
        }
        $env = ['DEBIAN_FRONTEND' => 'noninteractive', 'RUNLEVEL' => '1'];
        $missing === [] || Say::step("installing Debian packages: $names", function () use ($missing, $root, $env): void {
            Say::quietly(['apt-get', 'update', '-qq'], $root, $env);
            Say::quietly(['apt-get', 'install', '-y', '-qq', '--no-install-recommends', ...$missing], $root, $env);
        });
        $found = Packages::program('wsrep_sst_rsync');
        if ($found !== null) {
            return dirname($found);
        }
        $folder = "$root/var/galera";
        if (! is_file("$folder/usr/bin/wsrep_sst_rsync")) {
            is_dir($folder) || mkdir($folder, 0755, true);
            // The whole package would start a server of its own.
            Say::step('fetching the scripts that copy rows', function () use ($folder): void {
                Say::quietly(['apt-get', 'download', '-qq', 'mariadb-server'], $folder);
                Say::quietly(['dpkg-deb', '-x', (glob("$folder/mariadb-server_*.deb") ?: [''])[0], $folder], $folder);
            });
        }
        exec('chmod -R go+rX '.escapeshellarg($folder));

        return "$folder/usr/bin";
    }

    public function data(string $node): string
    {
        return "{$this->instance->directory}/mysql".($node === self::NODES[0] ? '' : "-$node");
    }

    /** All of them, one after the other: first the one that knows most. */
    public function start(): void
    {
        $first = $this->mostKnowing();
        foreach ([$first, ...array_values(array_diff(self::NODES, [$first]))] as $node) {
            Say::step($node === $first ? "starting the database, $node" : "$node joins", function () use ($node, $first): void {
                $this->startNode($node, $node === $first);
                $this->await($node);
            });
            $this->startHealth($node);
        }
    }

    /** One that ended comes back to the others; when none is left, the one that knows most begins. */
    public function restart(string $node): void
    {
        $others = array_filter(
            self::NODES,
            fn (string $n): bool => $n !== $node && $this->instance->processes->isAlive($n),
        );
        if ($others === [] && $node !== $this->mostKnowing()) {
            return;
        }
        $this->startNode($node, $others === []);
    }

    public function stop(): void
    {
        foreach (array_reverse(self::NODES) as $node) {
            $this->instance->processes->end("$node-health", 3);
            $this->instance->processes->end($node, 30);
        }
    }

    private function startNode(string $node, bool $begins): void
    {
        $data = $this->data($node);
        is_dir($data) || mkdir($data, 0700);
        // A node that was ended by force may have left the process that was to copy rows to it.
        if ($begins && is_file("$data/grastate.dat")) {
            $state = (string) file_get_contents("$data/grastate.dat");
            file_put_contents("$data/grastate.dat", preg_replace('/^safe_to_bootstrap: .*$/m', 'safe_to_bootstrap: 1', $state));
        }
        $this->instance->handOver();
        $ports = $this->instance->ports;
        $door = static fn (string $n, string $what): int => $ports->known("$n-$what") ?? $ports->of("$n-$what");
        $group = implode(',', array_map(static fn (string $n): string => '127.0.0.1:'.$door($n, 'group'), self::NODES));
        $this->instance->processes->start(
            $node,
            [...$this->instance->account->prefix(), (string) Packages::program('mariadbd'), ...$this->settings($node), ...[
                '--wsrep-on=ON', '--wsrep-provider='.self::LIBRARY, '--wsrep-cluster-name=harbor-post', "--wsrep-node-name=$node",
                '--wsrep-node-address=127.0.0.1', '--wsrep-cluster-address=gcomm://'.($begins ? '' : $group),
                "--wsrep-node-incoming-address=$node", '--wsrep-sst-method=rsync', '--wsrep-slave-threads=2', '--wsrep-retry-autocommit=8',
                '--wsrep-sst-receive-address=127.0.0.1:'.$door($node, 'sst'),
                '--wsrep-provider-options='.implode(';', [
                    'gmcast.listen_addr=tcp://127.0.0.1:'.$door($node, 'group'), 'ist.recv_addr=127.0.0.1:'.$door($node, 'ist'),
                    'gcache.size=256M', 'repl.causal_read_timeout=PT3S', 'evs.keepalive_period=PT0.5S',
                    // How long the others take to agree on it stays as it comes: cut short, a busy machine loses all of them.
                    'evs.inactive_check_period=PT0.25S', 'evs.suspect_timeout=PT2S',
                    'pc.recovery='.($begins ? 'false' : 'true'),
                ]),
            ]],
            "{$this->instance->directory}/log/$node.log",
            $this->instance->directory,
            ['PATH' => self::ensure($this->instance->root).':'.getenv('PATH').':/usr/sbin:/sbin'],
        );
    }

    /** @return list<string> */
    private function settings(string $node): array
    {
        $ports = $this->instance->ports;

        return [
            '--no-defaults', '--datadir='.$this->data($node), '--bind-address=127.0.0.1',
            '--port='.($ports->known($node) ?? $ports->of($node)), "--socket={$this->instance->sockets()}/$node.sock",
            "--pid-file={$this->instance->directory}/run/$node.pid", '--skip-name-resolve', '--character-set-server=utf8mb4',
            '--innodb-buffer-pool-size=512M', '--innodb-log-file-size=256M', '--innodb-autoinc-lock-mode=2', '--binlog-format=ROW',
            '--performance-schema=OFF', '--max-connections=160', '--max-allowed-packet=64M', '--local-infile=0',
        ];
    }

    private function startHealth(string $node): void
    {
        $instance = $this->instance;
        $port = $instance->ports->known("$node-health") ?? $instance->ports->of("$node-health");
        $instance->processes->start(
            "$node-health",
            [
                ...$instance->account->prefix(), PHP_BINARY, '-d', 'mysqlnd.net_read_timeout=1', "$instance->root/launcher/node.php",
                (string) $port, (string) $instance->ports->known($node), "$instance->root/var/$instance->name.env",
            ],
            "$instance->directory/log/$node-health.log",
            $instance->root,
        );
    }

    public function restartHealth(string $name): void
    {
        $this->startHealth(explode('-', $name)[0]);
    }

    private function await(string $node): void
    {
        for ($until = microtime(true) + self::JOINS; microtime(true) < $until; usleep(100_000)) {
            if (! $this->instance->processes->isAlive($node)) {
                break;
            }
            if (($this->ask($node)['wsrep_local_state'] ?? '') === '4') {
                return;
            }
        }
        throw new Trouble("$node did not join. Its log is {$this->instance->directory}/log/$node.log");
    }

    /** @return array<string, string> what a node says of itself; nothing where it does not answer */
    public function ask(string $node): array
    {
        try {
            $rows = $this->open($node)->query("SHOW STATUS LIKE 'wsrep\\_%'");

            return $rows === false ? [] : array_map(strval(...), $rows->fetchAll(\PDO::FETCH_KEY_PAIR));
        } catch (\PDOException) {
            return [];
        }
    }

    /** After a stop in order it is written down who was the last; after all were ended by force, each is asked how far it came. */
    private function mostKnowing(): string
    {
        $best = [self::NODES[0], -2];
        foreach (self::NODES as $node) {
            $file = $this->data($node).'/grastate.dat';
            if (! is_file($file)) {
                continue;
            }
            $state = (string) file_get_contents($file);
            if (str_contains($state, 'safe_to_bootstrap: 1')) {
                return $node;
            }
            $seen = preg_match('/^seqno:\s+(\d+)$/m', $state, $m) === 1 ? (int) $m[1] : $this->recovered($node);
            if ($seen > $best[1]) {
                $best = [$node, $seen];
            }
        }

        return $best[0];
    }

    private function recovered(string $node): int
    {
        $log = "{$this->instance->directory}/log/$node-recover.log";
        @unlink($log);
        $this->instance->handOver();
        Say::quietly([
            ...$this->instance->account->prefix(), (string) Packages::program('mariadbd'), ...$this->settings($node),
            '--wsrep-on=ON', '--wsrep-provider='.self::LIBRARY, '--wsrep-recover', "--log-error=$log",
        ], $this->instance->directory);

        return preg_match('/Recovered position: [0-9a-f-]+:(\d+)/', (string) @file_get_contents($log), $m) === 1 ? (int) $m[1] : -1;
    }

    /** Something that only its root may say to a node. */
    public function tell(string $node, string $statement): void
    {
        (new \PDO(
            "mysql:unix_socket={$this->instance->sockets()}/$node.sock",
            'root',
            $this->instance->rootPassword(),
            [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION],
        ))->exec($statement);
    }

    /** What a node says when it is written to; null where it lets that be done. */
    public function refusal(string $node): ?string
    {
        try {
            $this->open($node)->exec('UPDATE harbor.guards SET n = n + 1 WHERE id = 1');

            return null;
        } catch (\PDOException $e) {
            return $e->getMessage();
        }
    }

    /** Sums over what people wrote, when the node knows everything. */
    public function sums(string $node): string
    {
        $pdo = $this->open($node);
        $pdo->exec('SET SESSION wsrep_sync_wait = 15');
        $rows = $pdo->query('CHECKSUM TABLE harbor.addresses, harbor.prefixes, harbor.records, harbor.zones, harbor.history');

        return $rows === false ? '' : implode(' ', array_column($rows->fetchAll(\PDO::FETCH_ASSOC), 'Checksum'));
    }

    /** As the application, at one node, or at a port of the balancer by its name. */
    public function open(string $port): \PDO
    {
        return new \PDO(
            "mysql:host=127.0.0.1;port={$this->instance->ports->known($port)}",
            'harbor',
            $this->instance->setting('DB_PASSWORD'),
            [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION, \PDO::ATTR_TIMEOUT => 2],
        );
    }

    public function takePorts(): void
    {
        foreach (self::NODES as $node) {
            foreach ([$node, ...self::doors($node)] as $name) {
                $this->instance->ports->of($name);
            }
        }
    }
}
