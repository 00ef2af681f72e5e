<?php

declare(strict_types=1);

use App\Http\Controllers\DirectoryController;
use App\Http\Controllers\GrantController;
use App\Http\Controllers\PortController;
use App\Http\Controllers\ReachController;
use App\Http\Controllers\RightsController;
use App\Http\Controllers\TextController;
use Illuminate\Support\Facades\Route;

Route::redirect('/directory', '/directory/sites');
Route::get('/directory/{list}', [DirectoryController::class, 'show'])
    ->whereIn('list', ['sites', 'tenants', 'spaces', 'vlans', 'domains', 'devices', 'people']);
Route::get('/directory/texts', [TextController::class, 'index']);
Route::get('/directory/texts/{template}', [TextController::class, 'show']);
Route::post('/directory/texts/{template}/attempt', [TextController::class, 'attempt']);
Route::post('/directory/texts/{template}/keep', [TextController::class, 'keep']);
Route::get('/directory/texts/{template}/of/{object}', [TextController::class, 'download']);
Route::get('/directory/teams', [RightsController::class, 'teams']);
Route::get('/directory/grants', [GrantController::class, 'index']);
Route::get('/directory/ports', [PortController::class, 'index']);
Route::get('/directory/reach', [ReachController::class, 'index']);
Route::get('/directory/settings', [DirectoryController::class, 'settings']);
Route::get('/directory/site/{site}', [DirectoryController::class, 'site']);
Route::get('/directory/vlan/{vlan}', [DirectoryController::class, 'vlan']);
Route::get('/directory/person/{person}', [RightsController::class, 'one']);
Route::post('/directory/sees-as/end', [RightsController::class, 'end']);
Route::post('/directory/sees-as/{person}', [RightsController::class, 'start']);
Route::post('/directory/vlans/read', [DirectoryController::class, 'readSwitches']);
