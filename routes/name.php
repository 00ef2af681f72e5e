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

Route::get('/name', [NameController::class, 'index'])->name('name');
Route::get('/name/reverse', ReverseController::class)->name('name.reverse');
Route::get('/name/tree', [NameController::class, 'tree'])->name('name.tree');
Route::get('/name/signing', [SigningController::class, 'index'])->name('name.signing');
Route::get('/name/signing/trial', [SigningController::class, 'trial'])->name('name.signing.trial');
Route::get('/name/zone/{zone}/signing', [SigningController::class, 'zone'])->name('name.zone.signing');
Route::get('/name/zone/{zone}/signing/parent', [SigningController::class, 'parent'])->name('name.zone.signing.parent');
Route::get('/name/zone/{zone}/signing/chain', [SigningController::class, 'chain'])->name('name.zone.signing.chain');
Route::get('/name/keys', [ServiceController::class, 'keys'])->name('name.keys');
Route::post('/name/keys/{key}/secret', [ServiceController::class, 'secret'])->name('name.key.secret');
Route::get('/name/take-in', [ServiceController::class, 'takeInForm'])->name('name.take-in');
Route::post('/name/take-in', [ServiceController::class, 'takeIn']);
Route::get('/name/zone/{zone}/service', [ServiceController::class, 'show'])->name('name.zone.service');
Route::post('/name/zone/{zone}/fetch/{server}', [ServiceController::class, 'fetch'])->name('name.zone.fetch');
Route::get('/name/zone/{zone}/drift', [DriftController::class, 'zone'])->name('name.zone.drift');
Route::post('/name/zone/{zone}/drift', [DriftController::class, 'takeZone']);
Route::get('/name/resolvers', [ResolverController::class, 'index'])->name('name.resolvers');
Route::post('/name/resolvers', [ResolverController::class, 'observe']);
Route::get('/name/resolvers/{server}/hints', [ResolverController::class, 'hints'])->name('name.resolver.hints');
Route::get('/name/resolvers/{server}/hints.zone', [ResolverController::class, 'hintsFile'])->name('name.resolver.hints.file');
Route::get('/name/sweep', [SweepController::class, 'index'])->name('name.sweep');
Route::post('/name/sweep', [SweepController::class, 'start']);
Route::get('/name/sweep/{sweep}', [SweepController::class, 'show'])->name('name.sweep.one');
Route::post('/name/sweep/{sweep}/cancel', [SweepController::class, 'cancel'])->name('name.sweep.cancel');
Route::get('/name/views', ViewsController::class)->name('name.views');
Route::get('/name/lookup', [LookupController::class, 'lookup'])->name('name.lookup');
Route::get('/name/test', [LookupController::class, 'test'])->name('name.test');
Route::get('/name/zone/{zone}', [NameController::class, 'zone'])->name('name.zone');
Route::get('/name/zone/{zone}/lately', [NameController::class, 'lately'])->name('name.zone.lately');
Route::get('/name/zone/{zone}/checks', [NameController::class, 'checks'])->name('name.zone.checks');
Route::get('/name/zone/{zone}/timeline', [NameController::class, 'timeline'])->name('name.zone.timeline');
Route::get('/name/zone/{zone}/export.zone', [ImportController::class, 'exportZone'])->name('name.zone.export');
