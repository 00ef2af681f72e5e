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
    Route::post('/sign-in', [SessionController::class, 'store'])->name('sign-in');
    Route::get('/sign-in/code', [SecondFactorController::class, 'ask'])->name('sign-in.code');
    Route::post('/sign-in/code', [SecondFactorController::class, 'answer']);
    Route::get('/first-person', [SessionController::class, 'first'])->name('first-person');
    Route::post('/first-person', [SessionController::class, 'makeFirst'])->middleware('throttle:20,1');
});

Route::middleware('throttle:30,1')->group(function (): void {
    Route::get('/sign-in/with', [ProviderController::class, 'leave'])->name('sign-in.with');
    Route::get('/sign-in/back', [ProviderController::class, 'back'])->name('sign-in.back');
});

Route::middleware(['auth', StillSignedIn::class, SeesAs::class, 'throttle:writes', 'throttle:packets'])->group(function (): void {
    Route::redirect('/', '/bridge')->name('home');
    Route::get('/bridge', BridgeController::class)->name('bridge');
    Route::get('/first-steps', FirstStepsController::class)->name('first-steps');
    Route::post('/sign-out', [SessionController::class, 'destroy'])->name('sign-out');
    Route::get('/pick/{kind}', PickController::class)->name('pick');
    Route::get('/api', [ApiController::class, 'page'])->name('api');
    Route::match(['get', 'post'], '/graph', [GraphController::class, 'page'])->name('graph');
    Route::get('/guide', [GuideController::class, 'index'])->name('guide');
    Route::get('/guide/about', [GuideController::class, 'about'])->name('guide.about');
    Route::get('/guide/commands', [GuideController::class, 'commands'])->name('guide.commands');
    Route::get('/guide/settings', [GuideController::class, 'settings'])->name('guide.settings');
    Route::get('/guide/picture/{name}', [GuideController::class, 'picture'])->where('name', '[a-z-]+')->name('guide.picture');
    Route::get('/guide/{guide}', [GuideController::class, 'show'])->name('guide.one');
    Route::get('/me', [SessionController::class, 'me'])->name('me');
    Route::get('/me/second-factor', [SecondFactorController::class, 'set'])->name('me.second-factor');
    Route::post('/act/{action}', ActController::class)->where('action', '[a-z-]+')->name('act');
    foreach (['plan', 'name', 'lease', 'ship', 'watch', 'directory'] as $verb) {
        require __DIR__."/$verb.php";
    }
});
