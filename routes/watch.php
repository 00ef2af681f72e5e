<?php

declare(strict_types=1);

use App\Http\Controllers\WatchController;
use Illuminate\Support\Facades\Route;

Route::get('/watch', [WatchController::class, 'index']);
