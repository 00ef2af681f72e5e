<?php

declare(strict_types=1);

namespace App\Console;

use App\Queries\Invariants;

/** The whole database against what must be so: a line each, exit status 1 when something is not. */
final class DataCheck extends Computes
{
    protected $signature = 'data:check {--json}';

    protected $description = 'Checks what must be so in the whole database';

    public function handle(): int
    {
        $bad = 0;
        $all = [];
        foreach (Invariants::all() as $sentence => ['count' => $count, 'some' => $some]) {
            $bad += $count;
            $all[] = ['holds' => $count === 0, 'what' => $sentence, 'count' => $count, 'some' => $some];
            if (! $this->option('json')) {
                $this->say(sprintf('%-6s %6d  %s', $count === 0 ? 'ok' : 'BROKEN', $count, $sentence));
                foreach ($some as $one) {
                    $this->say("               $one");
                }
            }
        }
        if ($this->option('json')) {
            $this->json($all);
        }

        return $bad === 0 ? 0 : 1;
    }
}
