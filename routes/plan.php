<?php

declare(strict_types=1);

use App\Http\Controllers\CalculatorController;
use App\Http\Controllers\ExportController;
use App\Http\Controllers\FindController;
use App\Http\Controllers\ImportController;
use App\Http\Controllers\PlanController;
use App\Http\Controllers\PlannerController;
use App\Http\Controllers\ScanController;
use Illuminate\Support\Facades\Route;

Route::get('/plan', [PlanController::class, 'index']);
Route::get('/plan/prefix/{prefix}/move', [PlanController::class, 'move']);
Route::get('/plan/prefix/{prefix}', [PlanController::class, 'prefix']);
Route::get('/plan/calculator', [CalculatorController::class, 'prefix']);
Route::get('/plan/summary', [CalculatorController::class, 'summary']);
Route::get('/plan/prefix/{prefix}/panel/{panel}', [PlanController::class, 'panel'])->whereIn(
    'panel',
    ['change-form', 'bulk-form', 'reshape', 'flow', 'several', 'hold'],
);
Route::get('/plan/prefix/{prefix}/print', [ExportController::class, 'paper']);
Route::get('/plan/prefix/{prefix}/addresses.{form}', [ExportController::class, 'addresses'])->whereIn('form', ['csv', 'json']);
Route::get('/plan/vlans.{form}', [ExportController::class, 'vlans'])->whereIn('form', ['csv', 'json']);
Route::get('/plan/{space}/export.json', [ExportController::class, 'plan']);
Route::get('/plan/scan/{scan}', [ScanController::class, 'show']);
Route::get('/plan/{space}/scans', [ScanController::class, 'index']);
Route::post('/plan/{space}/scans', [ScanController::class, 'start']);
Route::match(['get', 'post'], '/plan/{space}/planner', PlannerController::class);
Route::get('/plan/{space}/export.csv', [ImportController::class, 'exportPlan']);
Route::get('/plan/{space}', [PlanController::class, 'space']);
Route::get('/find', FindController::class);
Route::get('/find/quick', [FindController::class, 'quick']);
Route::get('/import', [ImportController::class, 'index']);
Route::post('/import', [ImportController::class, 'store']);
Route::get('/import/{import}', [ImportController::class, 'show']);
Route::post('/import/{import}/take-over', [ImportController::class, 'takeOver']);
Route::post('/import/{import}/cancel', [ImportController::class, 'cancel']);
Route::post('/import/{import}/columns', [ImportController::class, 'map']);
Route::get('/import/{import}/refused', [ImportController::class, 'refused']);
