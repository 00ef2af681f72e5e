<?php

declare(strict_types=1);

namespace App\Console;

use App\Domain\Watch\HistoryChain;

/** Seals what was written since: each entry's hash holds the one before. */
final class HistorySeal extends Computes
{
    protected $signature = 'history:seal';

    protected $description = 'Chains new entries of the history by hash';

    public function handle(): int
    {
        $n = HistoryChain::seal();
        $this->say($n === 1 ? '1 entry sealed' : number_format($n).' entries sealed');

        return 0;
    }
}
