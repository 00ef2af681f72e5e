<?php

declare(strict_types=1);

namespace HarborPost\Bench;

use HarborPost\Launcher\Cluster;
use HarborPost\Launcher\Galera;
use HarborPost\Launcher\Instance;
use HarborPost\Launcher\Keeper;
use HarborPost\Launcher\Say;

/**
 * Sixteen programs place hosts over the balancer, and four people look at pages, while one part after the other is killed, stopped, cut
 * off, wiped and started anew. Afterwards everything that was acknowledged is looked for, on every node.
 */
final class Trial
{
    private const WRITERS = 16;

    private const READERS = 4;

    /** Seconds between two faults, and for which a stalled or cut off part stays so. */
    private const CALM = 8;

    private const GONE = 10;

    /** Instead of a status. */
    private const SIGNED_OUT = 1;

    private string $folder;

    /** @var list<Keeper> */
    private array $keepers = [];

    /** @var list<array{string, float, float}> fault, when it began, when everything stood again */
    private array $faults = [];

    /** @var list<string> nobody starts these again meanwhile */
    private array $held = [];

    public function __construct(private readonly string $root, private readonly Cluster $cluster)
    {
        $this->folder = "{$cluster->instance->directory}/trial";
    }

    /** @return bool whether all held */
    public function run(): bool
    {
        exec('rm -rf '.escapeshellarg($this->folder));
        mkdir($this->folder, 0700);
        $this->keepers = $this->cluster->keepers();
        $ground = (array) json_decode($this->machine()->artisan(['bench:trial']), true);
        file_put_contents("$this->folder/settings.json", json_encode(
            $ground + ['base' => $this->cluster->instance->address(), 'folder' => $this->folder],
        ));
        $programs = [];
        for ($i = 0; $i < self::WRITERS + self::READERS; $i++) {
            $script = $i < self::WRITERS ? 'writer' : 'reader';
            $programs[] = proc_open(
                [PHP_BINARY, "$this->root/bench/cluster/$script.php", "$this->folder/settings.json", (string) $i],
                [['file', '/dev/null', 'r'], ['file', "$this->folder/$script-$i.out", 'w'], ['file', "$this->folder/$script-$i.out", 'a']],
                $pipes,
            );
        }
        $this->wait(self::CALM);
        foreach ($this->plan() as $what => $fault) {
            Say::line(date('H:i:s')." $what");
            $at = microtime(true);
            $fault();
            $this->untilSound();
            $this->faults[] = [$what, $at, microtime(true)];
            $this->wait(self::CALM);
        }
        touch("$this->folder/stop");
        foreach ($programs as $program) {
            $program === false || proc_close($program);
        }

        return $this->told() && $this->races();
    }

    /** The races of the bench, with a writer's process on each of the three nodes: rules hold, and everybody is answered. */
    private function races(): bool
    {
        Say::line(date('H:i:s').' races with writers on all three nodes');
        $ports = array_map(fn (string $node): string => (string) $this->cluster->instance->ports->known($node), Galera::NODES);
        $said = $this->machine()->artisan(['bench', '--only=race'], ['HARBOR_RACE_PORTS' => implode(',', $ports)]);
        foreach (explode("\n", $said) as $line) {
            str_contains($line, ': ') && ! str_starts_with($line, '|') && Say::line("         $line");
        }
        $sums = array_map($this->cluster->galera->sums(...), Galera::NODES);

        return ! str_contains($said, 'misses') && count(array_unique($sums)) === 1;
    }

    /** @return array<string, \Closure(): void> */
    private function plan(): array
    {
        $instance = $this->cluster->instance;

        return [
            'the node that is written to is killed' => fn () => $this->kill($instance, $this->writer()),
            'another node is killed' => fn () => $this->kill($instance, $this->reader()),
            'a machine is killed, with its workers' => fn () => $this->killMachine(Cluster::MACHINES[0]),
            'the node that is written to stalls and comes back' => fn () => $this->stall($this->writer()),
            'a node is killed and wiped, and joins anew' => fn () => $this->wipe($this->reader()),
            'the node that is written to is cut off from the others' => fn () => $this->cutOff($this->writer()),
            'everything is started anew in turn, in order' => fn () => $this->inTurn(),
        ];
    }

    private function machine(): Instance
    {
        return $this->cluster->machine(Cluster::MACHINES[0]);
    }

    private function kill(Instance $instance, string $name, int $signal = SIGKILL): void
    {
        $pid = $instance->processes->all()[$name]['pid'] ?? 0;
        $pid > 0 && posix_kill($pid, $signal);
    }

    private function killMachine(string $name): void
    {
        $machine = $this->cluster->machine($name);
        foreach ($machine->processes->all() as $part) {
            // With whatever it started.
            posix_kill(-$part['pid'], SIGKILL);
        }
    }

    private function stall(string $node): void
    {
        $this->kill($this->cluster->instance, $node, SIGSTOP);
        $this->wait(self::GONE);
        $this->kill($this->cluster->instance, $node, SIGCONT);
    }

    private function wipe(string $node): void
    {
        $this->held[] = $node;
        $this->kill($this->cluster->instance, $node);
        $this->wait(1);
        exec('rm -rf '.escapeshellarg($this->cluster->galera->data($node)));
        $this->held = [];
    }

    /** What a minority is asked to write it must refuse. */
    private function cutOff(string $node): void
    {
        $this->cluster->galera->tell($node, "SET GLOBAL wsrep_provider_options = 'gmcast.isolate=1'");
        $this->wait(self::GONE);
        $said = $this->cluster->galera->refusal($node);
        Say::line("         asked to write, $node says: ".($said ?? 'nothing, it wrote'));
        $this->minorityWrote = $said === null;
        $this->cluster->galera->tell($node, "SET GLOBAL wsrep_provider_options = 'gmcast.isolate=0'");
    }

    private bool $minorityWrote = false;

    /** As one does for an upgrade: the balancer sends nobody there first. */
    private function inTurn(): void
    {
        foreach (Cluster::MACHINES as $name) {
            $this->cluster->restartMachine($name, $this->wait(...));
        }
        foreach (Galera::NODES as $node) {
            $this->held[] = $node;
            $this->cluster->restartNode($node, $this->wait(...));
            $this->held = [];
            $this->untilSound();
        }
    }

    private function writer(): string
    {
        return $this->cluster->writer() ?? Galera::NODES[0];
    }

    private function reader(): string
    {
        return array_values(array_diff(Galera::NODES, [$this->writer()]))[0];
    }

    private function wait(float $seconds): void
    {
        for ($until = microtime(true) + $seconds; microtime(true) < $until; usleep(100_000)) {
            foreach ($this->keepers as $keeper) {
                $keeper->look($this->held);
            }
        }
    }

    private function untilSound(): void
    {
        for ($until = microtime(true) + 90; microtime(true) < $until; $this->wait(0.3)) {
            if ($this->cluster->isSound()) {
                return;
            }
        }
        Say::line('         not everything stands again after 90 s');
    }

    private function told(): bool
    {
        $told = $sent = [];
        foreach (glob("$this->folder/writer-*.log") ?: [] as $file) {
            foreach (file($file, FILE_IGNORE_NEW_LINES) ?: [] as $line) {
                [$at, $took, $what, $status, $name, $more] = explode("\t", $line) + array_fill(0, 6, '');
                if ($what === 'told') {
                    $told[] = ['name' => $name, 'address' => $more, 'at' => (float) $at];
                } elseif ($what === 'sent') {
                    $sent[] = [(float) $at, (float) $took, (int) $status];
                }
            }
        }
        $looked = [];
        foreach (glob("$this->folder/reader-*.log") ?: [] as $file) {
            foreach (file($file, FILE_IGNORE_NEW_LINES) ?: [] as $line) {
                [$at, $took, $status, $path, $to] = explode("\t", $line) + array_fill(0, 5, '');
                $looked[] = [(float) $at, (float) $took, str_ends_with($to, '/sign-in') ? self::SIGNED_OUT : (int) $status];
            }
        }
        usort($told, static fn (array $a, array $b): int => $a['at'] <=> $b['at']);
        foreach ($this->faults as [$what, $from, $to]) {
            Say::line(sprintf(
                '%-55s longest without a write %4.1f s; of requests %4d refused or unanswered, of pages %3d; all stood after %2.0f s',
                $what, self::gap($told, $from, $to + self::CALM), self::failed($sent, $from, $to + 2, [201, 422]),
                self::failed($looked, $from, $to + 2, [200, 302]), $to - $from,
            ));
        }
        file_put_contents("$this->folder/told.json", json_encode($told));
        $this->cluster->instance->handOver();
        $found = (array) json_decode($this->machine()->artisan(['bench:trial', "--told=$this->folder/told.json"]), true);
        Say::line((string) json_encode($found));
        $sums = array_map($this->cluster->galera->sums(...), Galera::NODES);
        $same = count(array_unique($sums)) === 1;
        Say::line($same ? 'The three nodes hold the same rows.' : 'THE NODES DIFFER: '.implode(' / ', $sums));
        $chain = trim($this->machine()->artisan(['history:verify']));
        Say::line($chain);
        $signedOut = count(array_filter($looked, static fn (array $l): bool => $l[2] === self::SIGNED_OUT));
        Say::line("Signed out by it: $signedOut of ".count($looked).' pages');
        $inTurn = end($this->faults);
        $unanswered = $inTurn === false ? 0 : self::failed($sent, $inTurn[1], $inTurn[2], [201, 422])
            + self::failed($looked, $inTurn[1], $inTurn[2], [200, 302]);

        return $same && $signedOut === 0 && ! $this->minorityWrote && $unanswered === 0 && $found['broken'] === []
            && $found['lost'] + $found['other'] + $found['not once in history'] + $found['addresses twice'] === 0;
    }

    /** @param  list<array{name: string, address: string, at: float}>  $told */
    private static function gap(array $told, float $from, float $to): float
    {
        $last = $from;
        $gap = 0.0;
        foreach ($told as $one) {
            if ($one['at'] >= $from && $one['at'] <= $to) {
                $gap = max($gap, $one['at'] - $last);
                $last = $one['at'];
            }
        }

        return max($gap, $to - $last);
    }

    /**
     * @param  list<array{float, float, int}>  $asked
     * @param  list<int>  $good
     */
    private static function failed(array $asked, float $from, float $to, array $good): int
    {
        return count(array_filter(
            $asked,
            static fn (array $a): bool => $a[0] >= $from && $a[0] <= $to && ! in_array($a[2], $good, true),
        ));
    }
}
