<?php

declare(strict_types=1);

use App\Http\Controllers\ImportController;
use App\Http\Controllers\NameController;
use App\Http\Controllers\ResolverController;
use App\Http\Controllers\ReverseController;
use App\Http\Controllers\ServiceController;
use Illuminate\Support\Facades\Route;

Route::get('/name', [NameController::class, 'index']);
Route::get('/name/reverse', ReverseController::class);
Route::get('/name/keys', [ServiceController::class, 'keys']);
Route::post('/name/keys/{key}/secret', [ServiceController::class, 'secret']);
Route::get('/name/take-in', [ServiceController::class, 'takeInForm']);
Route::post('/name/take-in', [ServiceController::class, 'takeIn']);
Route::get('/name/zone/{zone}/service', [ServiceController::class, 'show']);
Route::post('/name/zone/{zone}/fetch/{server}', [ServiceController::class, 'fetch']);
Route::get('/name/zone/{zone}/drift', [ServiceController::class, 'drift']);
Route::post('/name/zone/{zone}/drift', [ServiceController::class, 'take']);
Route::get('/name/resolvers', [ResolverController::class, 'index']);
Route::post('/name/resolvers', [ResolverController::class, 'observe']);
Route::get('/name/resolvers/{server}/hints', [ResolverController::class, 'hints']);
Route::get('/name/resolvers/{server}/hints.zone', [ResolverController::class, 'hintsFile']);
Route::get('/name/lookup', [NameController::class, 'lookup']);
Route::get('/name/zone/{zone}', [NameController::class, 'zone']);
Route::get('/name/zone/{zone}/export.zone', [ImportController::class, 'exportZone']);
