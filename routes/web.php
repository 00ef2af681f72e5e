<?php

declare(strict_types=1);

use App\Http\Controllers\ActController;
use App\Http\Controllers\ApiController;
use App\Http\Controllers\BridgeController;
use App\Http\Controllers\FirstStepsController;
use App\Http\Controllers\GraphController;
use App\Http\Controllers\GuideController;
use App\Http\Controllers\PickController;
use App\Http\Controllers\ProviderController;
use App\Http\Controllers\SecondFactorController;
use App\Http\Controllers\SessionController;
use App\Http\Middleware\SeesAs;
use App\Http\Middleware\StillSignedIn;
use Illuminate\Support\Facades\Route;

Route::middleware('guest')->group(function (): void {
    Route::get('/sign-in', [SessionController::class, 'show'])->name('login');
    Route::post('/sign-in', [SessionController::class, 'store']);
    Route::get('/sign-in/code', [SecondFactorController::class, 'ask']);
    Route::post('/sign-in/code', [SecondFactorController::class, 'answer']);
    Route::get('/first-person', [SessionController::class, 'first']);
    Route::post('/first-person', [SessionController::class, 'makeFirst'])->middleware('throttle:20,1');
});

Route::middleware('throttle:30,1')->group(function (): void {
    Route::get('/sign-in/with', [ProviderController::class, 'leave']);
    Route::get('/sign-in/back', [ProviderController::class, 'back']);
});

Route::middleware(['auth', StillSignedIn::class, SeesAs::class, 'throttle:writes'])->group(function (): void {
    Route::redirect('/', '/bridge');
    Route::get('/bridge', BridgeController::class);
    Route::get('/first-steps', FirstStepsController::class);
    Route::post('/sign-out', [SessionController::class, 'destroy']);
    Route::get('/pick/{kind}', PickController::class);
    Route::get('/api', [ApiController::class, 'page']);
    Route::match(['get', 'post'], '/graph', [GraphController::class, 'page']);
    Route::get('/guide', [GuideController::class, 'index']);
    Route::get('/guide/about', [GuideController::class, 'about']);
    Route::get('/guide/commands', [GuideController::class, 'commands']);
    Route::get('/guide/settings', [GuideController::class, 'settings']);
    Route::get('/guide/picture/{name}', [GuideController::class, 'picture'])->where('name', '[a-z-]+');
    Route::get('/guide/{guide}', [GuideController::class, 'show']);
    Route::get('/me', [SessionController::class, 'me']);
    Route::get('/me/second-factor', [SecondFactorController::class, 'set']);
    Route::post('/act/{action}', ActController::class)->where('action', '[a-z-]+');
    foreach (['plan', 'name', 'lease', 'ship', 'watch', 'directory'] as $verb) {
        require __DIR__."/$verb.php";
    }
});
