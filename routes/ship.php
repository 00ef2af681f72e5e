<?php

declare(strict_types=1);

use App\Http\Controllers\DraftController;
use App\Http\Controllers\DriftController;
use App\Http\Controllers\HookController;
use App\Http\Controllers\OutsideController;
use App\Http\Controllers\RuleController;
use App\Http\Controllers\ShipController;
use App\Http\Controllers\TimesController;
use Illuminate\Support\Facades\Route;

Route::get('/ship', [ShipController::class, 'index']);
Route::get('/ship/draft', [DraftController::class, 'mine']);
Route::get('/ship/drafts', [DraftController::class, 'index']);
Route::get('/ship/drafts/{draft}', [DraftController::class, 'show']);
Route::post('/ship/drafts/{draft}/submit', [DraftController::class, 'submit']);
Route::post('/ship/drafts/{draft}/reopen', [DraftController::class, 'reopen']);
Route::post('/ship/drafts/{draft}/decide', [DraftController::class, 'decide']);
Route::post('/ship/drafts/{draft}/remark', [DraftController::class, 'remark']);
Route::get('/ship/drafts/{draft}/edits/{edit}', [DraftController::class, 'edit']);
Route::post('/ship/drafts/{draft}/edits/{edit}', [DraftController::class, 'arrange']);
Route::post('/ship/drafts/{draft}/time', [DraftController::class, 'time']);
Route::post('/ship/drafts/{draft}/commit', [DraftController::class, 'commit']);
Route::get('/ship/hooks', [HookController::class, 'index']);
Route::post('/ship/hooks/{hook}/test', [HookController::class, 'test']);
Route::post('/ship/hooks/{hook}/again', [HookController::class, 'again']);
Route::get('/ship/rules', [RuleController::class, 'index']);
Route::get('/ship/times', [TimesController::class, 'index']);
Route::get('/ship/outside', [OutsideController::class, 'index']);
Route::get('/ship/outside/{outside}', [OutsideController::class, 'show']);
Route::post('/ship/outside/{outside}', [OutsideController::class, 'bring']);
Route::post('/ship/outside/{outside}/stop/{run}', [OutsideController::class, 'stop']);
Route::get('/ship/together', [ShipController::class, 'together']);
Route::post('/ship/together', [ShipController::class, 'shipTogether']);
Route::post('/ship/all', [ShipController::class, 'all']);
Route::post('/ship/shipment/{shipment}/cancel', [ShipController::class, 'cancel']);
Route::get('/ship/server/{server}', [ShipController::class, 'server']);
Route::post('/ship/server/{server}', [ShipController::class, 'ship']);
Route::post('/ship/server/{server}/leases', [ShipController::class, 'giveBack']);
Route::get('/ship/server/{server}/drift', [DriftController::class, 'server']);
Route::post('/ship/server/{server}/drift', [DriftController::class, 'takeServer']);
Route::post('/ship/server/{server}/mode', [ShipController::class, 'mode']);
