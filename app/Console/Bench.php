<?php

declare(strict_types=1);

namespace App\Console;

use App\Bench\CoreBench;
use App\Bench\Fill;
use App\Bench\PageBench;
use App\Bench\TakeBench;
use Illuminate\Console\Command;

final class Bench extends Command
{
    protected $signature = 'bench {--fill : first load 100,000 prefixes, 1,000,000 addresses and 1,000,000 records} {--only= : core, pages or take}';

    protected $description = 'Measures what the budgets speak of, as ratios to floors of the same run';

    /** @var list<array{string, string, string, string}> */
    private array $rows = [];

    public function handle(): int
    {
        gc_disable();
        if ($this->option('fill')) {
            (new Fill(fn (string $l) => $this->line($l)))->load();
        }
        $only = (string) $this->option('only');
        $only === '' || $only === 'core' ? (new CoreBench($this->row(...)))->run() : null;
        $only === '' || $only === 'pages' ? (new PageBench($this->row(...), fn (string $l) => $this->line($l)))->run() : null;
        $only === '' || $only === 'take' ? (new TakeBench($this->row(...)))->run() : null;
        $this->newLine();
        $this->table(['What', 'Measured', 'Budget', ''], $this->rows);

        return 0;
    }

    /** One line of the table; the last column says whether the budget holds. */
    private function row(string $what, string $measured, string $budget, ?bool $holds): void
    {
        $this->rows[] = [$what, $measured, $budget, $holds === null ? '' : ($holds ? 'holds' : 'misses')];
        $this->line("$what: $measured");
    }
}
