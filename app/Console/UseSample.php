<?php

declare(strict_types=1);

namespace App\Console;

use App\Domain\Plan\Counter;
use App\Queries\Forecasts;
use Illuminate\Console\Command;

final class UseSample extends Command
{
    protected $signature = 'use:sample';

    protected $description = 'Keeps today\'s sample of how full each prefix is, and fits the trends anew';

    public function handle(): int
    {
        Counter::fold();
        Forecasts::sample();
        $this->line(number_format(Forecasts::fit()).' trends');

        return 0;
    }
}
