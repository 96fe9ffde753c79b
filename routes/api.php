<?php

declare(strict_types=1);

use App\Http\Controllers\AccountController;
use App\Http\Controllers\ContractController;
use App\Http\Controllers\ExitPlanController;
use App\Http\Controllers\LevelController;
use App\Http\Controllers\OpenApiController;
use App\Http\Controllers\OrderController;
use App\Http\Controllers\OutsideFillController;
use App\Http\Controllers\RehearsalController;
use App\Http\Controllers\SettingsController;
use App\Http\Controllers\TradingController;
use App\Http\Controllers\WatchingController;
use App\Http\Middleware\Authenticated;
use Illuminate\Support\Facades\Route;

// A route takes the query parameters that it names, and no others: {@see \App\Http\Middleware\KnownQuery}.
Route::get('openapi.json', OpenApiController::class)->withoutMiddleware(Authenticated::class);

// Never held back: what protects, closes or cancels. How many orders a second are taken is the engine's to say.
Route::post('accounts/{account}/flatten', [TradingController::class, 'flattenAccount']);
Route::post('accounts/{account}/cancel', [TradingController::class, 'cancelAccount']);
Route::post('accounts/{account}/recall', [TradingController::class, 'recall']);
Route::post('contracts/{code}/flatten', [TradingController::class, 'flatten']);
Route::post('contracts/{code}/reverse', [TradingController::class, 'reverse']);
Route::post('contracts/{code}/exit-plan', [TradingController::class, 'cover']);
Route::post('contracts/{code}/exit', [TradingController::class, 'setExit']);
Route::post('contracts/{code}/break-even', [TradingController::class, 'breakEven']);
Route::post('contracts/{code}/tighten', [TradingController::class, 'tighten']);
Route::post('contracts/{code}/close', [TradingController::class, 'close']);
Route::post('contracts/{code}/half-off', [TradingController::class, 'halfOff']);
Route::post('contracts/{code}/steps', [TradingController::class, 'steps']);
Route::post('contracts/{code}/cancel', [TradingController::class, 'cancel']);
Route::post('orders', [OrderController::class, 'store']);
Route::post('orders/pair', [OrderController::class, 'pair']);
Route::post('orders/tie', [OrderController::class, 'tie']);
Route::post('orders/{order}/untie', [OrderController::class, 'untie']);
Route::patch('orders/{order}', [OrderController::class, 'update']);
Route::delete('orders/{order}', [OrderController::class, 'destroy']);

Route::middleware('throttle:api')->group(static function (): void {
    Route::get('accounts', [AccountController::class, 'index']);
    Route::post('accounts', [AccountController::class, 'open']);
    Route::post('accounts/{account}/close', [AccountController::class, 'close']);
    Route::post('accounts/{account}/reset', [AccountController::class, 'reset']);
    Route::put('accounts/{account}/rates', [AccountController::class, 'rates']);
    Route::get('accounts/{account}/open-risk', [AccountController::class, 'openRisk'])->takes('gap');
    Route::post('accounts/{account}/what-if', [AccountController::class, 'whatIf']);
    Route::get('accounts/{account}/day', [AccountController::class, 'day'])->takes('which');
    Route::get('accounts/{account}/limits', [AccountController::class, 'limits']);
    Route::put('accounts/{account}/limits', [AccountController::class, 'setLimits']);
    Route::post('accounts/{account}/lift', [AccountController::class, 'lift']);
    Route::get('limits/schema', [AccountController::class, 'limitsSchema']);
    Route::get('accounts/{account}/risk', [AccountController::class, 'risk']);
    Route::get('positions', [AccountController::class, 'positions'])->takes('account');
    Route::get('fills', [AccountController::class, 'fills'])->takes('account', 'cursor');
    Route::get('journal', [AccountController::class, 'journal'])->takes('account', 'after');
    Route::post('stream-ticket', [AccountController::class, 'ticket']);

    Route::get('calendar', [ContractController::class, 'calendar'])->takes('account');
    Route::put('calendar', [ContractController::class, 'setCalendar'])->can('steer-practice')->takes('account');
    Route::get('calendar/schema', [ContractController::class, 'calendarSchema']);
    Route::get('contracts', [ContractController::class, 'index'])->takes('q');
    Route::get('contracts/{code}', [ContractController::class, 'show']);
    Route::get('contracts/{code}/book', [ContractController::class, 'book'])->takes('account', 'levels');
    Route::post('contracts/{code}/steps/preview', [TradingController::class, 'previewSteps']);
    Route::get('contracts/{code}/depth-history', [WatchingController::class, 'depth'])->takes('account', 'step', 'after', 'until');
    Route::get('contracts/{code}/tape', [WatchingController::class, 'tape'])->takes('account', 'most');
    Route::get('contracts/{code}/bars', [WatchingController::class, 'bars'])->takes('account', 'by', 'size', 'most');
    Route::post('practice/{code}', [ContractController::class, 'practice'])->can('steer-practice')->takes('account');

    Route::get('orders', [OrderController::class, 'index'])->takes('account', 'state', 'contract', 'cursor');
    Route::post('orders/preview', [OrderController::class, 'preview']);
    Route::post('orders/size', [OrderController::class, 'size']);
    Route::post('orders/{order}/preview', [OrderController::class, 'previewChange']);
    Route::get('orders/{order}', [OrderController::class, 'show']);

    Route::get('exit-plans', [ExitPlanController::class, 'index']);
    Route::post('exit-plans', [ExitPlanController::class, 'store']);
    Route::post('exit-plans/order', [ExitPlanController::class, 'order']);
    Route::post('exit-plans/study', [ExitPlanController::class, 'study']);
    Route::post('exit-plans/distance', [ExitPlanController::class, 'distance']);
    Route::post('exit-plans/noise', [ExitPlanController::class, 'noise']);
    Route::get('exit-plans/schema', [ExitPlanController::class, 'schema']);
    Route::put('exit-plans/{id}', [ExitPlanController::class, 'update']);
    Route::patch('exit-plans/{id}', [ExitPlanController::class, 'update']);
    Route::delete('exit-plans/{id}', [ExitPlanController::class, 'destroy']);
    Route::post('rehearsals', [RehearsalController::class, 'store']);
    Route::get('exit-plans/{id}', [ExitPlanController::class, 'show']);
    Route::get('exit-plans/{id}/curve', [ExitPlanController::class, 'curve'])->takes('best', 'contract', 'side', 'price', 'quantity');

    Route::get('levels', [LevelController::class, 'index'])->takes('account', 'contract', 'off');
    Route::post('levels/watch', [LevelController::class, 'watch']);
    Route::post('levels', [LevelController::class, 'store']);
    Route::patch('levels/{id}', [LevelController::class, 'update']);
    Route::delete('levels/{id}', [LevelController::class, 'destroy']);

    Route::get('outside-fills', [OutsideFillController::class, 'index'])->takes('account');
    Route::post('outside-fills', [OutsideFillController::class, 'store']);
    Route::delete('outside-fills', [OutsideFillController::class, 'destroy'])->takes('account');

    Route::get('settings', [SettingsController::class, 'index']);
    Route::put('settings/{name}', [SettingsController::class, 'update']);
});
