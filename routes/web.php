<?php

declare(strict_types=1);

use App\Http\Controllers\EntryController;
use App\Http\Middleware\OwnOrigin;
use Illuminate\Support\Facades\Route;

Route::view('/', 'desk')->middleware('auth');
// An empty page of the desk's own origin: the desk draws into it what has a window of its own.
Route::view('/window', 'window')->middleware('auth');
Route::get('/sign-in', [EntryController::class, 'show'])->name('login');
Route::post('/sign-in', [EntryController::class, 'store'])->middleware(OwnOrigin::class);
Route::get('/enter/{token}', [EntryController::class, 'link']);
Route::post('/enter/{token}', [EntryController::class, 'follow'])->middleware(OwnOrigin::class);
Route::post('/demo', [EntryController::class, 'demo'])->middleware(OwnOrigin::class);
Route::post('/sign-out', [EntryController::class, 'destroy']);
