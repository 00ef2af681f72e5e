<?php

declare(strict_types=1);

use App\Http\Controllers\CalendarController;
use App\Http\Controllers\HealthController;
use App\Http\Controllers\MetricsController;
use App\Http\Controllers\RdapController;
use App\Http\Middleware\ByToken;
use Illuminate\Support\Facades\Route;

Route::get('/up', [HealthController::class, 'up']);
Route::get('/ready', [HealthController::class, 'ready'])->middleware('throttle:600,1');
Route::get('/due/{secret}.ics', [CalendarController::class, 'feed'])->where('secret', 'hp_[A-Za-z0-9_-]{32}')
    ->middleware('throttle:programs');
Route::middleware(['throttle:programs', ByToken::class])->group(function (): void {
    Route::get('/metrics', MetricsController::class);
    Route::get('/rdap/help', [RdapController::class, 'help']);
    Route::get('/rdap/ip/{address}', [RdapController::class, 'ip']);
    Route::get('/rdap/ip/{address}/{length}', [RdapController::class, 'ip'])->whereNumber('length');
    Route::get('/rdap/domain/{name}', [RdapController::class, 'domain']);
    Route::get('/rdap/nameserver/{name}', [RdapController::class, 'nameserver']);
    Route::get('/rdap/entity/{handle}', [RdapController::class, 'entity']);
    Route::get('/rdap/{kind}', [RdapController::class, 'search'])->whereIn('kind', ['domains', 'nameservers', 'entities']);
});
