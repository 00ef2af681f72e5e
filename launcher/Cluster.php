<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/**
 * Several machines on one, to be seen and tried: three nodes of the database, two machines for pages and work, and a balancer in front
 * of both. Nothing is shared but the database.
 */
final readonly class Cluster
{
    public const MACHINES = ['web1', 'web2'];

    /** Settings that each machine has for itself. */
    private const OWN = ['HARBOR_MACHINE', 'HARBOR_NAMES'];

    public Instance $instance;

    public Galera $galera;

    /** @param  array<string, string>  $more  further settings of its machines */
    public function __construct(private string $root, string $name = 'cluster', private array $more = [])
    {
        $this->instance = new Instance($root, $name);
        $this->galera = new Galera($this->instance);
    }

    public function machine(string $name): Instance
    {
        return new Instance($this->root, "{$this->instance->name}-$name");
    }

    public function clear(bool $fresh): void
    {
        $this->stop();
        $this->instance->clear($fresh);
        foreach ($fresh ? array_slice(Galera::NODES, 1) : [] as $node) {
            exec('rm -rf '.escapeshellarg("{$this->instance->directory}/mysql-$node"));
        }
        foreach (self::MACHINES as $machine) {
            $this->machine($machine)->clear($fresh);
        }
    }

    public function start(bool $demo): void
    {
        $begun = microtime(true);
        Galera::ensure($this->root);
        $this->galera->takePorts();
        $this->instance->ports->of('reads');
        $this->instance->writeSettings(['HARBOR_DEMO' => $demo ? 'true' : 'false', 'HARBOR_MACHINE' => $this->instance->name]);
        if (! is_dir("{$this->instance->directory}/mysql/mysql")) {
            $this->instance->startDatabase();
            $this->instance->migrate();
            $this->instance->processes->end('mariadb', 60);
        }
        $this->galera->start();
        $this->settleMachines();
        $this->startBalancer();
        $this->instance->startStandins();
        $this->instance->migrate();
        $this->load($demo);
        foreach (self::MACHINES as $name) {
            $this->startMachine($name);
        }
        $this->instance->awaitPage();
        Say::line("\nHarbor Post on two machines and three nodes: {$this->instance->address()}".sprintf(
            '   (ready after %.0f s)', microtime(true) - $begun,
        ));
        $demo && Say::line('Sign in as maren or sable (steward, who sees the machines at Watch, Servers); the password is  harbour-demo');
        Say::line('"./hpost cluster status" says how each part is; Ctrl-C or "./hpost cluster stop" ends it.');
    }

    private function load(bool $demo): void
    {
        $first = $this->machine(self::MACHINES[0]);
        if ($demo && (int) trim($first->artisan(['people:count'])) === 0) {
            $first->startWorker('names', Instance::workers()['names']);
            Say::step('loading the demo scenario', fn () => $first->artisan(['demo:load']));
        }
        $demo && $first->artisan(['standins:point']);
    }

    /** Each is told the same, but its own name and where it hands zones out. */
    private function settleMachines(): void
    {
        $shared = [];
        foreach (file("$this->root/var/{$this->instance->name}.env", FILE_IGNORE_NEW_LINES) ?: [] as $line) {
            if (preg_match('/^([A-Z_]+)="(.*)"$/', $line, $m) === 1 && ! in_array($m[1], self::OWN, true)) {
                $shared[$m[1]] = $m[2];
            }
        }
        foreach (self::MACHINES as $i => $name) {
            $machine = $this->machine($name);
            // What the demo's servers copy from is the first machine.
            $names = ($i === 0 ? $this->instance->ports : $machine->ports)->of('names');
            $machine->writeSettings(['HARBOR_MACHINE' => $name, 'HARBOR_NAMES' => "127.0.0.1:$names"] + $this->more + $shared + [
                'DB_READ_PORT' => (string) $this->instance->ports->known('reads'), 'HARBOR_TAKE_OVER' => '12',
                'HARBOR_PROXIES' => '127.0.0.1', 'HARBOR_NODES' => (string) count(Galera::NODES),
            ]);
        }
    }

    public function startMachine(string $name): void
    {
        $machine = $this->machine($name);
        foreach (['config', 'route', 'event'] as $what) {
            $machine->artisan(["$what:cache"]);
        }
        $machine->startWeb();
        $machine->awaitPage();
        $machine->startWorkers();
    }

    public function startBalancer(): void
    {
        $ports = $this->instance->ports;
        $run = $this->instance->sockets();
        // Who is next is the same for everybody who comes, so that never two are written to.
        $servers = fn (string $others): string => implode("\n", array_map(static fn (string $node): string => sprintf(
            '    server %s 127.0.0.1:%d check port %d inter 500ms fall 2 rise 2 on-marked-down shutdown-sessions%s',
            $node, $ports->known($node), $ports->known("$node-health"), $node === Galera::NODES[0] ? '' : $others,
        ), Galera::NODES));
        $pages = implode("\n", array_map(fn (string $name): string => sprintf(
            '    server %s 127.0.0.1:%d check inter 500ms fall 4 rise 1', $name, $this->machine($name)->ports->of('web'),
        ), self::MACHINES));
        file_put_contents("$run/down.http", "HTTP/1.0 503 Service Unavailable\r\nContent-Type: text/html; charset=utf-8\r\n"
            ."Cache-Control: no-store\r\nRetry-After: 5\r\nContent-Security-Policy: default-src 'self'\r\n\r\n"
            .file_get_contents("$this->root/public/down.html"));
        file_put_contents("$run/haproxy.cfg", strtr((string) file_get_contents("$this->root/launcher/templates/haproxy.cfg"), [
            '{run}' => $run, '{web}' => (string) ($ports->known('web') ?? $ports->of('web')),
            '{writes}' => (string) $ports->known('mariadb'), '{reads}' => (string) $ports->known('reads'), '{pages}' => $pages,
            '{writers}' => $servers(' backup'), '{readers}' => $servers(''),
        ]));
        $this->instance->handOver();
        $this->instance->account->own($run);
        $this->instance->processes->start(
            'haproxy',
            [...$this->instance->account->prefix(), (string) Packages::program('haproxy'), '-W', '-db', '-f', "$run/haproxy.cfg"],
            "{$this->instance->directory}/log/haproxy.log",
            $this->instance->directory,
        );
    }

    /**
     * Ends a machine and starts it anew; the balancer sends nobody there meanwhile.
     *
     * @param  \Closure(float): void  $wait
     */
    public function restartMachine(string $name, \Closure $wait): void
    {
        $this->order("set server pages/$name state drain");
        $wait(2.0);
        $this->machine($name)->stop();
        $this->startMachine($name);
        $this->order("set server pages/$name state ready");
        $wait(2.0);
    }

    /**
     * Ends a node and starts it anew; another one is written to first.
     *
     * @param  \Closure(float): void  $wait
     */
    public function restartNode(string $node, \Closure $wait): void
    {
        foreach (['writer', 'readers'] as $backend) {
            $this->order("set server $backend/$node state maint");
        }
        $wait(1.0);
        $this->instance->processes->end($node, 60);
        $this->galera->restart($node);
        $wait(1.0);
        foreach (['writer', 'readers'] as $backend) {
            $this->order("set server $backend/$node state ready");
        }
    }

    /** The node that is written to now. */
    public function writer(): ?string
    {
        try {
            $name = $this->galera->open('mariadb')->query('SELECT @@wsrep_node_name');

            return $name === false ? null : (string) $name->fetchColumn();
        } catch (\PDOException) {
            return null;
        }
    }

    /** Whether every part is there and knows everything. */
    public function isSound(): bool
    {
        $states = $this->balancer();
        foreach (Galera::NODES as $node) {
            $is = $this->galera->ask($node);
            if (
                ($is['wsrep_local_state'] ?? '') !== '4' || $is['wsrep_cluster_size'] !== (string) count(Galera::NODES)
                    || ($states["writer/$node"] ?? '') !== 'UP' || ($states["readers/$node"] ?? '') !== 'UP'
            ) {
                return false;
            }
        }
        foreach (self::MACHINES as $name) {
            if (($states["pages/$name"] ?? '') !== 'UP') {
                return false;
            }
        }

        return true;
    }

    /** @return list<Keeper> */
    public function keepers(): array
    {
        $keepers = [new Keeper($this->instance, $this->restart(...), array_fill_keys(Galera::NODES, Galera::STAYS_AWAY))];
        foreach (self::MACHINES as $name) {
            $machine = $this->machine($name);
            $keepers[] = new Keeper($machine, static fn (string $part) => $machine->restart($part));
        }

        return $keepers;
    }

    private function restart(string $name): void
    {
        match (true) {
            in_array($name, Galera::NODES, true) => $this->galera->restart($name),
            str_ends_with($name, '-health') => $this->galera->restartHealth($name),
            $name === 'haproxy' => $this->startBalancer(),
            default => $this->instance->restart($name),
        };
    }

    public function stop(): void
    {
        // They reach the database over it until their end.
        foreach (self::MACHINES as $name) {
            $this->machine($name)->stop();
        }
        $this->instance->processes->end('haproxy', 3);
        $this->galera->stop();
        $this->instance->stop();
    }

    public function status(): int
    {
        if (! $this->instance->processes->isAlive('hpost')) {
            Say::line('No several machines run here.');

            return 1;
        }
        $balancer = $this->balancer();
        $writer = $this->writer();
        foreach (Galera::NODES as $node) {
            $is = $this->galera->ask($node);
            Say::line(sprintf(
                '%-6s %-28s %s%s', $node,
                $is === [] ? 'does not answer' : "{$is['wsrep_cluster_status']}, {$is['wsrep_local_state_comment']}",
                $is === [] ? '' : "{$is['wsrep_cluster_size']} nodes, knows {$is['wsrep_last_committed']}",
                $node === $writer ? ', is written to' : '',
            ));
        }
        foreach (self::MACHINES as $name) {
            $machine = $this->machine($name);
            $ended = array_filter(
                array_keys($machine->processes->all()), static fn (string $p): bool => ! $machine->processes->isAlive($p),
            );
            Say::line(sprintf('%-6s %-28s %s', $name, $balancer["pages/$name"] ?? 'not known to the balancer', $ended === []
                ? 'all of it runs' : 'ended: '.implode(', ', $ended)));
        }
        Say::line("Harbor Post: {$this->instance->address()}");

        return 0;
    }

    private function order(string $line): string
    {
        $socket = @stream_socket_client("unix://{$this->instance->sockets()}/haproxy.sock", $code, $message, 2);
        if ($socket === false) {
            return '';
        }
        fwrite($socket, "$line\n");

        return (string) stream_get_contents($socket);
    }

    /** @return array<string, string> backend/server → what the balancer takes it for */
    public function balancer(): array
    {
        $states = [];
        foreach (explode("\n", $this->order('show stat')) as $line) {
            $cells = str_getcsv($line, ',', '"', '');
            if (isset($cells[17])) {
                $states["$cells[0]/$cells[1]"] = (string) $cells[17];
            }
        }

        return $states;
    }
}
