<?php

declare(strict_types=1);

use App\Http\Controllers\ApiController;
use App\Http\Controllers\GraphController;
use App\Http\Controllers\TextController;
use App\Http\Middleware\AnsweredOnce;
use App\Http\Middleware\ByToken;
use Illuminate\Support\Facades\Route;

Route::get('/openapi.json', [ApiController::class, 'openapi'])->name('api.v1.openapi');

Route::middleware(['throttle:programs', ByToken::class, AnsweredOnce::class])->group(function (): void {
    Route::match(['get', 'post'], '/graphql', [GraphController::class, 'ask'])->name('api.v1.graphql');
    Route::get('/', [ApiController::class, 'index'])->name('api.v1');
    Route::post('/acts', [ApiController::class, 'several'])->name('api.v1.acts');
    Route::post('/acts/{act}', [ApiController::class, 'act'])->where('act', '[a-z-]+')->name('api.v1.act');
    Route::get('/texts/{template}/{known}', [TextController::class, 'told'])->where('known', '.+')->name('api.v1.text');
    Route::get('/{collection}', [ApiController::class, 'list'])->where('collection', '[a-z0-9-]+')->name('api.v1.list');
    Route::get('/{collection}/{known}', [ApiController::class, 'show'])
        ->where('collection', '[a-z0-9-]+')->where('known', '.+')->name('api.v1.object');
});
