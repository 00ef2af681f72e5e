<?php

declare(strict_types=1);

use App\Http\Controllers\CoverageController;
use App\Http\Controllers\DriftController;
use App\Http\Controllers\ExchangeController;
use App\Http\Controllers\LeaseController;
use App\Http\Controllers\LeasesController;
use App\Http\Controllers\OptionsController;
use App\Http\Controllers\PairController;
use Illuminate\Support\Facades\Route;

Route::get('/lease', [LeaseController::class, 'index']);
Route::get('/lease/leases', [LeasesController::class, 'index']);
Route::post('/lease/leases/end', [LeasesController::class, 'end']);
Route::get('/lease/leases/{lease}', [LeasesController::class, 'show'])->whereNumber('lease');
Route::get('/lease/without', [LeaseController::class, 'without']);
Route::get('/lease/coverage', CoverageController::class);
Route::get('/lease/pairs', [PairController::class, 'index']);
Route::get('/lease/pairs/{pair}', [PairController::class, 'show']);
Route::post('/lease/pairs/{pair}/ask', [PairController::class, 'ask']);
Route::post('/lease/pairs/{pair}/down/{server}', [PairController::class, 'down']);
Route::get('/lease/classes', [OptionsController::class, 'classes']);
Route::get('/lease/bytes', [OptionsController::class, 'bytes']);
Route::get('/lease/options', [OptionsController::class, 'layer']);
Route::get('/lease/options/{layer}/{of}', [OptionsController::class, 'layer']);
Route::get('/lease/exchange', [ExchangeController::class, 'show']);
Route::post('/lease/exchange', [ExchangeController::class, 'run']);
Route::get('/lease/scope/{scope}', [LeaseController::class, 'scope']);
Route::get('/lease/scope/{scope}/names', [LeaseController::class, 'names']);
Route::get('/lease/scope/{scope}/drift/{server}', [DriftController::class, 'scope']);
Route::post('/lease/scope/{scope}/drift/{server}', [DriftController::class, 'takeScope']);
