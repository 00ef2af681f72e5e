<?php

declare(strict_types=1);

use App\Http\Controllers\DirectoryController;
use App\Http\Controllers\GrantController;
use App\Http\Controllers\PortController;
use App\Http\Controllers\ReachController;
use App\Http\Controllers\RightsController;
use App\Http\Controllers\TextController;
use Illuminate\Support\Facades\Route;

Route::redirect('/directory', '/directory/sites')->name('directory');
Route::get('/directory/{list}', [DirectoryController::class, 'show'])
    ->whereIn('list', ['sites', 'tenants', 'spaces', 'vlans', 'domains', 'devices', 'people'])->name('directory.list');
Route::get('/directory/texts', [TextController::class, 'index'])->name('directory.texts');
Route::get('/directory/texts/{template}', [TextController::class, 'show'])->name('directory.text');
Route::post('/directory/texts/{template}/attempt', [TextController::class, 'attempt'])->name('directory.text.attempt');
Route::post('/directory/texts/{template}/keep', [TextController::class, 'keep'])->name('directory.text.keep');
Route::get('/directory/texts/{template}/of/{object}', [TextController::class, 'download'])->name('directory.text.of');
Route::get('/directory/teams', [RightsController::class, 'teams'])->name('directory.teams');
Route::get('/directory/roles', [RightsController::class, 'roles'])->name('directory.roles');
Route::get('/directory/grants', [GrantController::class, 'index'])->name('directory.grants');
Route::get('/directory/ports', [PortController::class, 'index'])->name('directory.ports');
Route::get('/directory/reach', [ReachController::class, 'index'])->name('directory.reach');
Route::get('/directory/settings', [DirectoryController::class, 'settings'])->name('directory.settings');
Route::get('/directory/site/{site}', [DirectoryController::class, 'site'])->name('directory.site');
Route::get('/directory/vlan/{vlan}', [DirectoryController::class, 'vlan'])->name('directory.vlan');
Route::get('/directory/person/{person}', [RightsController::class, 'one'])->name('directory.person');
Route::post('/directory/sees-as/end', [RightsController::class, 'end'])->name('directory.sees-as.end');
Route::post('/directory/sees-as/{person}', [RightsController::class, 'start'])->name('directory.sees-as.person');
Route::post('/directory/vlans/read', [DirectoryController::class, 'readSwitches'])->name('directory.vlans.read');
