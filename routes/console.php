<?php

declare(strict_types=1);

use App\Actions\Plan\Counter;
use Illuminate\Support\Facades\Schedule;

Schedule::call(fn () => Counter::fold())->name('fold-use')->everyMinute()->withoutOverlapping();
Schedule::command('leases:read')->everyFiveMinutes()->withoutOverlapping();
Schedule::command('use:sample')->dailyAt('00:40')->withoutOverlapping();
Schedule::command('scans:due')->hourlyAt(2)->withoutOverlapping();
Schedule::command('network:read')->hourlyAt(20)->withoutOverlapping();
