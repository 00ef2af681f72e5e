<?php

declare(strict_types=1);

namespace App\Bench;

use Illuminate\Console\Command;

final class Bench extends Command
{
    protected $signature = 'bench {--fill : first load 100,000 prefixes, 1,000,000 addresses and 1,000,000 records} {--only= : '
        .'core, pages, take, judge or race} {--fuzz : hostile messages and zone files, until interrupted or for --rounds} '
            .'{--rounds=200000} {--seed= : the seed of an earlier run}';

    protected $description = 'Measures what the budgets speak of, as ratios to floors of the same run';

    /** @var list<array{string, string, string, string}> */
    private array $rows = [];

    public function handle(): int
    {
        if ($this->option('fuzz')) {
            return $this->fuzz();
        }
        gc_disable();
        if ($this->option('fill')) {
            (new Fill(fn (string $l) => $this->line($l)))->load();
        }
        $only = $this->option('only');
        $only = is_string($only) ? $only : '';
        $only === '' || $only === 'core' ? (new CoreBench($this->row(...)))->run() : null;
        $only === '' || $only === 'pages' ? (new PageBench($this->row(...), fn (string $l) => $this->line($l)))->run() : null;
        $only === '' || $only === 'take' ? (new TakeBench($this->row(...)))->run() : null;
        $only === '' || $only === 'judge' ? (new JudgeBench($this->row(...)))->run() : null;
        $only === '' || $only === 'race' ? (new RaceBench($this->row(...)))->run() : null;
        $this->newLine();
        $this->table(['What', 'Measured', 'Budget', ''], $this->rows);

        return 0;
    }

    private function fuzz(): int
    {
        $seed = is_numeric($this->option('seed')) ? (int) $this->option('seed') : random_int(1, PHP_INT_MAX);
        $fuzz = new Fuzz($seed, ...Fuzz::corpus(base_path('tests/fixtures')));
        $this->line("seed $seed");
        $fuzz->run(max(1, (int) $this->option('rounds')));
        $this->line(
            sprintf(
                '%d read, %d refused, %d failed; the slowest took %.0f ms, the heaviest %d KB',
                $fuzz->read,
                $fuzz->refused,
                count($fuzz->failures),
                1000 * $fuzz->slowest,
                $fuzz->heaviest >> 10,
            ),
        );
        foreach (array_slice($fuzz->failures, 0, 50) as $failure) {
            $this->error($failure);
        }

        return $fuzz->failures === [] ? 0 : 1;
    }

    /** One line of the table; the last column says whether the budget holds. */
    private function row(string $what, string $measured, string $budget, ?bool $holds): void
    {
        $this->rows[] = [$what, $measured, $budget, $holds === null ? '' : ($holds ? 'holds' : 'misses')];
        $this->line("$what: $measured");
    }
}
