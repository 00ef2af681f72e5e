<?php

declare(strict_types=1);

use App\Http\Controllers\ImportController;
use App\Http\Controllers\NameController;
use App\Http\Controllers\ReverseController;
use Illuminate\Support\Facades\Route;

Route::get('/name', [NameController::class, 'index']);
Route::get('/name/reverse', ReverseController::class);
Route::get('/name/lookup', [NameController::class, 'lookup']);
Route::get('/name/zone/{zone}', [NameController::class, 'zone']);
Route::get('/name/zone/{zone}/export.zone', [ImportController::class, 'exportZone']);
