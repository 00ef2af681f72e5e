<?php

declare(strict_types=1);

use App\Http\Controllers\AuditController;
use App\Http\Controllers\CalendarController;
use App\Http\Controllers\FiguresController;
use App\Http\Controllers\NoticeController;
use App\Http\Controllers\ReportController;
use App\Http\Controllers\WatchController;
use Illuminate\Support\Facades\Route;

Route::get('/watch', [WatchController::class, 'index'])->name('watch');
Route::get('/watch/history.{form}', [WatchController::class, 'file'])->name('watch.history');
Route::get('/watch/back', [WatchController::class, 'back'])->name('watch.back');
Route::get('/watch/reports', [ReportController::class, 'index'])->name('watch.reports');
Route::get('/watch/reports/write', [ReportController::class, 'form'])->name('watch.reports.write');
Route::get('/watch/reports/{report}', [ReportController::class, 'show'])->name('watch.report');
Route::get('/watch/reports/{report}/table.{form}', [ReportController::class, 'export'])
    ->whereIn('form', ['csv', 'json', 'pdf', 'xlsx'])->name('watch.report.table');
Route::get('/watch/runs/{run}', [ReportController::class, 'run'])->whereNumber('run')->name('watch.run');
Route::get('/watch/kept', [NoticeController::class, 'kept'])->name('watch.kept');
Route::get('/watch/notices', [NoticeController::class, 'index'])->name('watch.notices');
Route::get('/watch/servers', [FiguresController::class, 'index'])->name('watch.servers');
Route::get('/watch/servers/{server}', [FiguresController::class, 'show'])->name('watch.server');
Route::get('/watch/servers/{server}/figures.csv', [FiguresController::class, 'table'])->name('watch.server.figures');
Route::get('/watch/mail', [NoticeController::class, 'mail'])->name('watch.mail');
Route::get('/watch/due', [NoticeController::class, 'due'])->name('watch.due');
Route::get('/watch/due.ics', [CalendarController::class, 'file'])->name('watch.due.ics');
Route::get('/watch/audits', [AuditController::class, 'index'])->name('watch.audits');
Route::get('/watch/audits/write', [AuditController::class, 'form'])->name('watch.audits.write');
Route::get('/watch/audits/{audit}', [AuditController::class, 'show'])->name('watch.audit');
Route::post('/watch/audits/{audit}/run', [AuditController::class, 'run'])->name('watch.audit.run');
