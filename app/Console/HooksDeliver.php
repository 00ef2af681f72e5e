<?php

declare(strict_types=1);

namespace App\Console;

use App\Shipping\Hooks;

/** Tells hooks what happened since. */
final class HooksDeliver extends Computes
{
    protected $signature = 'hooks:deliver';

    protected $description = 'Delivers events to systems outside';

    public function handle(): int
    {
        $n = Hooks::make()->deliver();
        $this->say($n === 1 ? '1 event taken' : "$n events taken");

        return 0;
    }
}
