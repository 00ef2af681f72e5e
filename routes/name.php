<?php

declare(strict_types=1);

use App\Http\Controllers\DriftController;
use App\Http\Controllers\ImportController;
use App\Http\Controllers\LookupController;
use App\Http\Controllers\NameController;
use App\Http\Controllers\ResolverController;
use App\Http\Controllers\ReverseController;
use App\Http\Controllers\ServiceController;
use App\Http\Controllers\SigningController;
use App\Http\Controllers\SweepController;
use App\Http\Controllers\ViewsController;
use Illuminate\Support\Facades\Route;

Route::get('/name', [NameController::class, 'index']);
Route::get('/name/reverse', ReverseController::class);
Route::get('/name/tree', [NameController::class, 'tree']);
Route::get('/name/signing', [SigningController::class, 'index']);
Route::get('/name/signing/trial', [SigningController::class, 'trial']);
Route::get('/name/zone/{zone}/signing', [SigningController::class, 'zone']);
Route::get('/name/zone/{zone}/signing/parent', [SigningController::class, 'parent']);
Route::get('/name/zone/{zone}/signing/chain', [SigningController::class, 'chain']);
Route::get('/name/keys', [ServiceController::class, 'keys']);
Route::post('/name/keys/{key}/secret', [ServiceController::class, 'secret']);
Route::get('/name/take-in', [ServiceController::class, 'takeInForm']);
Route::post('/name/take-in', [ServiceController::class, 'takeIn']);
Route::get('/name/zone/{zone}/service', [ServiceController::class, 'show']);
Route::post('/name/zone/{zone}/fetch/{server}', [ServiceController::class, 'fetch']);
Route::get('/name/zone/{zone}/drift', [DriftController::class, 'zone']);
Route::post('/name/zone/{zone}/drift', [DriftController::class, 'takeZone']);
Route::get('/name/resolvers', [ResolverController::class, 'index']);
Route::post('/name/resolvers', [ResolverController::class, 'observe']);
Route::get('/name/resolvers/{server}/hints', [ResolverController::class, 'hints']);
Route::get('/name/resolvers/{server}/hints.zone', [ResolverController::class, 'hintsFile']);
Route::get('/name/sweep', [SweepController::class, 'index']);
Route::post('/name/sweep', [SweepController::class, 'start']);
Route::get('/name/sweep/{sweep}', [SweepController::class, 'show']);
Route::post('/name/sweep/{sweep}/cancel', [SweepController::class, 'cancel']);
Route::get('/name/views', ViewsController::class);
Route::get('/name/lookup', [LookupController::class, 'lookup']);
Route::get('/name/test', [LookupController::class, 'test']);
Route::get('/name/zone/{zone}', [NameController::class, 'zone']);
Route::get('/name/zone/{zone}/lately', [NameController::class, 'lately']);
Route::get('/name/zone/{zone}/checks', [NameController::class, 'checks']);
Route::get('/name/zone/{zone}/timeline', [NameController::class, 'timeline']);
Route::get('/name/zone/{zone}/export.zone', [ImportController::class, 'exportZone']);
