<?php

declare(strict_types=1);

use App\Http\Controllers\CalendarController;
use App\Http\Controllers\HealthController;
use App\Http\Controllers\MetricsController;
use App\Http\Controllers\RdapController;
use App\Http\Middleware\ByToken;
use Illuminate\Support\Facades\Route;

Route::get('/up', [HealthController::class, 'up'])->name('up');
Route::get('/ready', [HealthController::class, 'ready'])->middleware('throttle:600,1')->name('ready');
Route::get('/due/{secret}.ics', [CalendarController::class, 'feed'])->where('secret', 'hp_[A-Za-z0-9_-]{32}')
    ->middleware('throttle:programs')->name('due');
Route::middleware(['throttle:programs', ByToken::class])->group(function (): void {
    Route::get('/metrics', MetricsController::class)->name('metrics');
    Route::get('/rdap/help', [RdapController::class, 'help'])->name('rdap.help');
    Route::get('/rdap/ip/{address}', [RdapController::class, 'ip'])->name('rdap.ip');
    Route::get('/rdap/ip/{address}/{length}', [RdapController::class, 'ip'])->whereNumber('length')->name('rdap.ip.length');
    Route::get('/rdap/domain/{name}', [RdapController::class, 'domain'])->name('rdap.domain');
    Route::get('/rdap/nameserver/{name}', [RdapController::class, 'nameserver'])->name('rdap.nameserver');
    Route::get('/rdap/entity/{handle}', [RdapController::class, 'entity'])->name('rdap.entity');
    Route::get('/rdap/{kind}', [RdapController::class, 'search'])
        ->whereIn('kind', ['domains', 'nameservers', 'entities'])->name('rdap.search');
});
