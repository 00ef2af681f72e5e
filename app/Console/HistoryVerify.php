<?php

declare(strict_types=1);

namespace App\Console;

use App\Domain\Watch\HistoryChain;

/** Proves the whole history against its chain and the file of heads; exit status 1 when something was altered. */
final class HistoryVerify extends Computes
{
    protected $signature = 'history:verify {--json}';

    protected $description = 'Finds what was altered, removed, inserted or moved in the history';

    public function handle(): int
    {
        $found = HistoryChain::verify();
        if ($this->option('json')) {
            $this->json($found);
        } else {
            foreach ($found['faults'] as $fault) {
                $this->say("ALTERED  $fault");
            }
            $this->say(
                number_format($found['entries']).' entries checked, '.number_format($found['waiting'])
                    .' not sealed yet, '.count($found['faults']).' faults',
            );
        }

        return $found['faults'] === [] ? 0 : 1;
    }
}
