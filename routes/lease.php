<?php

declare(strict_types=1);

use App\Http\Controllers\DriftController;
use App\Http\Controllers\LeaseController;
use Illuminate\Support\Facades\Route;

Route::get('/lease', [LeaseController::class, 'index']);
Route::get('/lease/exchange', [LeaseController::class, 'exchange']);
Route::post('/lease/exchange', [LeaseController::class, 'run']);
Route::get('/lease/scope/{scope}', [LeaseController::class, 'scope']);
Route::get('/lease/scope/{scope}/drift/{server}', [DriftController::class, 'scope']);
Route::post('/lease/scope/{scope}/drift/{server}', [DriftController::class, 'takeScope']);
