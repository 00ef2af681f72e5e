<?php

declare(strict_types=1);

use App\Domain\Plan\Counter;
use App\Queries\Health;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\Schedule;

Schedule::call(fn () => Cache::put(Health::CLOCK, now()->getTimestamp(), 86400))->name('clockwork')->everyMinute();
Schedule::call(fn () => Counter::fold())->name('fold-use')->everyMinute()->withoutOverlapping();
Schedule::command('hooks:deliver')->everyMinute()->withoutOverlapping(30);
Schedule::command('history:seal')->everyMinute()->withoutOverlapping(10);
Schedule::command('figures:read')->everyMinute()->withoutOverlapping(10);
Schedule::command('drafts:due')->everyMinute()->withoutOverlapping(30);
Schedule::command('ship:due')->everyMinute()->withoutOverlapping(30);
Schedule::command('signing:keep')->everyTenMinutes()->withoutOverlapping(30);
Schedule::command('outside:step')->everyFiveMinutes()->withoutOverlapping(30);
Schedule::command('pair:state')->everyMinute()->withoutOverlapping(10);
Schedule::command('leases:read')->everyFiveMinutes()->withoutOverlapping();
Schedule::command('drift:look')->everyFiveMinutes()->withoutOverlapping(10);
Schedule::command('drift:look --deep')->dailyAt('02:30')->withoutOverlapping(60);
Schedule::command('rights:test')->hourlyAt(12)->withoutOverlapping(30);
Schedule::command('notices:look')->everyMinute()->withoutOverlapping(10);
Schedule::command('mail:send')->everyMinute()->withoutOverlapping(30);
Schedule::command('reports:run')->everyMinute()->withoutOverlapping(60);
Schedule::command('data:trim')->dailyAt('03:40')->withoutOverlapping(240);
Schedule::command('texts:make')->everyTenMinutes()->withoutOverlapping(30);
Schedule::command('audits:run')->dailyAt('01:40')->withoutOverlapping(120);
Schedule::command('use:sample')->dailyAt('00:40')->withoutOverlapping();
Schedule::command('scans:due')->hourlyAt(2)->withoutOverlapping();
Schedule::command('network:read')->hourlyAt(20)->withoutOverlapping();
