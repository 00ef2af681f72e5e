<?php

declare(strict_types=1);

use App\Http\Controllers\AuditController;
use App\Http\Controllers\CalendarController;
use App\Http\Controllers\FiguresController;
use App\Http\Controllers\NoticeController;
use App\Http\Controllers\ReportController;
use App\Http\Controllers\WatchController;
use Illuminate\Support\Facades\Route;

Route::get('/watch', [WatchController::class, 'index']);
Route::get('/watch/history.{form}', [WatchController::class, 'file']);
Route::get('/watch/back', [WatchController::class, 'back']);
Route::get('/watch/reports', [ReportController::class, 'index']);
Route::get('/watch/reports/write', [ReportController::class, 'form']);
Route::get('/watch/reports/{report}', [ReportController::class, 'show']);
Route::get('/watch/reports/{report}/table.{form}', [ReportController::class, 'export'])->whereIn('form', ['csv', 'json', 'pdf', 'xlsx']);
Route::get('/watch/runs/{run}', [ReportController::class, 'run'])->whereNumber('run');
Route::get('/watch/kept', [NoticeController::class, 'kept']);
Route::get('/watch/notices', [NoticeController::class, 'index']);
Route::get('/watch/servers', [FiguresController::class, 'index']);
Route::get('/watch/servers/{server}', [FiguresController::class, 'show']);
Route::get('/watch/servers/{server}/figures.csv', [FiguresController::class, 'table']);
Route::get('/watch/mail', [NoticeController::class, 'mail']);
Route::get('/watch/due', [NoticeController::class, 'due']);
Route::get('/watch/due.ics', [CalendarController::class, 'file']);
Route::get('/watch/audits', [AuditController::class, 'index']);
Route::get('/watch/audits/write', [AuditController::class, 'form']);
Route::get('/watch/audits/{audit}', [AuditController::class, 'show']);
Route::post('/watch/audits/{audit}/run', [AuditController::class, 'run']);
