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

Route::get('/ship', [ShipController::class, 'index'])->name('ship');
Route::get('/ship/draft', [DraftController::class, 'mine'])->name('ship.draft.mine');
Route::get('/ship/drafts', [DraftController::class, 'index'])->name('ship.drafts');
Route::get('/ship/drafts/{draft}', [DraftController::class, 'show'])->name('ship.draft');
Route::post('/ship/drafts/{draft}/submit', [DraftController::class, 'submit'])->name('ship.draft.submit');
Route::post('/ship/drafts/{draft}/reopen', [DraftController::class, 'reopen'])->name('ship.draft.reopen');
Route::post('/ship/drafts/{draft}/decide', [DraftController::class, 'decide'])->name('ship.draft.decide');
Route::post('/ship/drafts/{draft}/remark', [DraftController::class, 'remark'])->name('ship.draft.remark');
Route::get('/ship/drafts/{draft}/edits/{edit}', [DraftController::class, 'edit'])->name('ship.draft.edit');
Route::post('/ship/drafts/{draft}/edits/{edit}', [DraftController::class, 'arrange']);
Route::post('/ship/drafts/{draft}/time', [DraftController::class, 'time'])->name('ship.draft.time');
Route::post('/ship/drafts/{draft}/commit', [DraftController::class, 'commit'])->name('ship.draft.commit');
Route::get('/ship/hooks', [HookController::class, 'index'])->name('ship.hooks');
Route::post('/ship/hooks/{hook}/test', [HookController::class, 'test'])->name('ship.hook.test');
Route::post('/ship/hooks/{hook}/again', [HookController::class, 'again'])->name('ship.hook.again');
Route::get('/ship/rules', [RuleController::class, 'index'])->name('ship.rules');
Route::get('/ship/times', [TimesController::class, 'index'])->name('ship.times');
Route::get('/ship/outside', [OutsideController::class, 'index'])->name('ship.outside');
Route::get('/ship/outside/{outside}', [OutsideController::class, 'show'])->name('ship.outside.one');
Route::post('/ship/outside/{outside}', [OutsideController::class, 'bring']);
Route::post('/ship/outside/{outside}/stop/{run}', [OutsideController::class, 'stop'])->name('ship.outside.stop');
Route::get('/ship/together', [ShipController::class, 'together'])->name('ship.together');
Route::post('/ship/together', [ShipController::class, 'shipTogether']);
Route::post('/ship/all', [ShipController::class, 'all'])->name('ship.all');
Route::post('/ship/shipment/{shipment}/cancel', [ShipController::class, 'cancel'])->name('ship.shipment.cancel');
Route::get('/ship/server/{server}', [ShipController::class, 'server'])->name('ship.server');
Route::post('/ship/server/{server}', [ShipController::class, 'ship']);
Route::post('/ship/server/{server}/leases', [ShipController::class, 'giveBack'])->name('ship.server.leases');
Route::get('/ship/server/{server}/drift', [DriftController::class, 'server'])->name('ship.server.drift');
Route::post('/ship/server/{server}/drift', [DriftController::class, 'takeServer']);
Route::post('/ship/server/{server}/mode', [ShipController::class, 'mode'])->name('ship.server.mode');
