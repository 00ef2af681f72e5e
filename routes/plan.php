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

Route::get('/plan', [PlanController::class, 'index'])->name('plan');
Route::get('/plan/prefix/{prefix}/move', [PlanController::class, 'move'])->name('plan.prefix.move');
Route::get('/plan/prefix/{prefix}', [PlanController::class, 'prefix'])->name('plan.prefix');
Route::get('/plan/calculator', [CalculatorController::class, 'prefix'])->name('plan.calculator');
Route::get('/plan/summary', [CalculatorController::class, 'summary'])->name('plan.summary');
Route::get('/plan/prefix/{prefix}/panel/{panel}', [PlanController::class, 'panel'])->whereIn(
    'panel',
    ['change-form', 'bulk-form', 'reshape', 'flow', 'several', 'hold'],
)->name('plan.prefix.panel');
Route::get('/plan/prefix/{prefix}/print', [ExportController::class, 'paper'])->name('plan.prefix.print');
Route::get('/plan/prefix/{prefix}/addresses.{form}', [ExportController::class, 'addresses'])
    ->whereIn('form', ['csv', 'json'])->name('plan.prefix.addresses');
Route::get('/plan/vlans.{form}', [ExportController::class, 'vlans'])->whereIn('form', ['csv', 'json'])->name('plan.vlans');
Route::get('/plan/{space}/export.json', [ExportController::class, 'plan'])->name('plan.space.export.json');
Route::get('/plan/scan/{scan}', [ScanController::class, 'show'])->name('plan.scan');
Route::get('/plan/{space}/scans', [ScanController::class, 'index'])->name('plan.space.scans');
Route::post('/plan/{space}/scans', [ScanController::class, 'start']);
Route::match(['get', 'post'], '/plan/{space}/planner', PlannerController::class)->name('plan.space.planner');
Route::get('/plan/{space}/export.csv', [ImportController::class, 'exportPlan'])->name('plan.space.export.csv');
Route::get('/plan/{space}', [PlanController::class, 'space'])->name('plan.space');
Route::get('/find', FindController::class)->name('find');
Route::get('/find/quick', [FindController::class, 'quick'])->name('find.quick');
Route::get('/import', [ImportController::class, 'index'])->name('import');
Route::post('/import', [ImportController::class, 'store']);
Route::get('/import/{import}', [ImportController::class, 'show'])->name('import.one');
Route::post('/import/{import}/take-over', [ImportController::class, 'takeOver'])->name('import.take-over');
Route::post('/import/{import}/cancel', [ImportController::class, 'cancel'])->name('import.cancel');
Route::post('/import/{import}/columns', [ImportController::class, 'map'])->name('import.columns');
Route::get('/import/{import}/refused', [ImportController::class, 'refused'])->name('import.refused');
