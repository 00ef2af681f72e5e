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

Route::get('/lease', [LeaseController::class, 'index'])->name('lease');
Route::get('/lease/leases', [LeasesController::class, 'index'])->name('lease.leases');
Route::post('/lease/leases/end', [LeasesController::class, 'end'])->name('lease.leases.end');
Route::get('/lease/leases/{lease}', [LeasesController::class, 'show'])->whereNumber('lease')->name('lease.lease');
Route::get('/lease/without', [LeaseController::class, 'without'])->name('lease.without');
Route::get('/lease/coverage', CoverageController::class)->name('lease.coverage');
Route::get('/lease/pairs', [PairController::class, 'index'])->name('lease.pairs');
Route::get('/lease/pairs/{pair}', [PairController::class, 'show'])->name('lease.pair');
Route::post('/lease/pairs/{pair}/ask', [PairController::class, 'ask'])->name('lease.pair.ask');
Route::post('/lease/pairs/{pair}/down/{server}', [PairController::class, 'down'])->name('lease.pair.down');
Route::get('/lease/classes', [OptionsController::class, 'classes'])->name('lease.classes');
Route::get('/lease/bytes', [OptionsController::class, 'bytes'])->name('lease.bytes');
Route::get('/lease/options', [OptionsController::class, 'layer'])->name('lease.options');
Route::get('/lease/options/{layer}/{of}', [OptionsController::class, 'layer'])->name('lease.options.of');
Route::get('/lease/exchange', [ExchangeController::class, 'show'])->name('lease.exchange');
Route::post('/lease/exchange', [ExchangeController::class, 'run']);
Route::get('/lease/scope/{scope}', [LeaseController::class, 'scope'])->name('lease.scope');
Route::get('/lease/scope/{scope}/names', [LeaseController::class, 'names'])->name('lease.scope.names');
Route::get('/lease/scope/{scope}/drift/{server}', [DriftController::class, 'scope'])->name('lease.scope.drift');
Route::post('/lease/scope/{scope}/drift/{server}', [DriftController::class, 'takeScope']);
