<?php

declare(strict_types=1);

use App\Http\Controllers\DriftController;
use App\Http\Controllers\ShipController;
use Illuminate\Support\Facades\Route;

Route::get('/ship', [ShipController::class, 'index']);
Route::get('/ship/draft', [ShipController::class, 'draft']);
Route::post('/ship/draft', [ShipController::class, 'commitDraft']);
Route::post('/ship/all', [ShipController::class, 'all']);
Route::post('/ship/shipment/{shipment}/cancel', [ShipController::class, 'cancel']);
Route::get('/ship/server/{server}', [ShipController::class, 'server']);
Route::post('/ship/server/{server}', [ShipController::class, 'ship']);
Route::get('/ship/server/{server}/drift', [DriftController::class, 'server']);
Route::post('/ship/server/{server}/drift', [DriftController::class, 'takeServer']);
Route::post('/ship/server/{server}/mode', [ShipController::class, 'mode']);
