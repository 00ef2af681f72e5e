<?php

declare(strict_types=1);

namespace App\Console;

use App\View\PlanForm;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix;
use HarborPost\Core\Planning\NeedsTable;
use HarborPost\Core\Planning\Packing;
use HarborPost\Core\Planning\Strategy;

final class PlanPack extends Computes
{
    protected $signature = 'plan:pack {file : a table of needs: site, purpose, hosts, growth, years, v6, vlan; - is standard '
        .'input} {--in=* : prefixes to plan in, IPv4 and IPv6} {--strategy=tight : tight, room or fixed} {--json}';

    protected $description = 'An address plan from a table of needs';

    public function handle(): int
    {
        $strategy = Strategy::tryFrom((string) $this->option('strategy'));
        $file = (string) $this->argument('file');
        if ($strategy === null || $this->option('in') === []) {
            return $this->unusable('say with --in=PREFIX where to plan; --strategy is tight, room or fixed');
        }
        $text = $file === '-' ? stream_get_contents(STDIN) : (is_file($file) ? file_get_contents($file) : false);
        if ($text === false) {
            return $this->unusable("$file cannot be read");
        }
        try {
            $open = array_map(Prefix::parse(...), array_map(strval(...), array_values((array) $this->option('in'))));
        } catch (NotUnderstood $e) {
            return $this->unusable($e->getMessage());
        }
        $table = NeedsTable::read($text);
        foreach ($table->faults as $fault) {
            $this->err("line {$fault['line']}, {$fault['column']}: {$fault['message']}");
        }
        if ($table->needs === []) {
            return $this->unusable('the table holds no need that could be read');
        }
        $plan = Packing::plan($open, $table->needs, $strategy);
        $form = PlanForm::of($plan, $open);
        $this->option('json') ? $this->json($form) : $this->say(implode("\n", PlanForm::lines($form)));

        return $plan->isWhole() && $table->faults === [] ? 0 : 1;
    }
}
