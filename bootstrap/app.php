<?php

declare(strict_types=1);

use App\Http\Middleware\Authenticated;
use App\Http\Middleware\ContentSecurity;
use App\Http\Middleware\KeepSession;
use App\Http\Middleware\KnownHost;
use App\Http\Middleware\KnownQuery;
use App\Http\Middleware\PageToken;
use App\Http\Middleware\QuietProblems;
use App\Http\Problem;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Foundation\Configuration\Middleware;
use Illuminate\Foundation\Http\Middleware\ValidateCsrfToken;
use Illuminate\Http\Middleware\HandleCors;
use Illuminate\Http\Request;
use Illuminate\Routing\Middleware\SubstituteBindings;
use Illuminate\Session\Middleware\StartSession;
use Illuminate\Support\Facades\Route;
use Symfony\Component\HttpKernel\Exception\HttpExceptionInterface;

return Application::configure(basePath: dirname(__DIR__))
    ->withRouting(
        web: __DIR__.'/../routes/web.php',
        then: static fn() => Route::prefix('api')->middleware([
            QuietProblems::class, Authenticated::class, KnownQuery::class, SubstituteBindings::class,
        ])->group(__DIR__.'/../routes/api.php'),
    )
    ->withMiddleware(static function (Middleware $middleware): void {
        // The app is same-origin; the package behind HandleCors is not installed (composer.json, replace).
        $middleware->remove(HandleCors::class);
        $middleware->prepend(KnownHost::class);
        $middleware->append(ContentSecurity::class);
        $middleware->web(replace: [StartSession::class => KeepSession::class, ValidateCsrfToken::class => PageToken::class]);
        // Who is not signed in has no session: OwnOrigin guards these.
        $middleware->validateCsrfTokens(except: ['sign-in', 'demo', 'enter/*']);
        $middleware->redirectGuestsTo('/sign-in');
    })
    ->withCommands([__DIR__.'/../app/Console/Commands'])
    ->withExceptions(static function (Exceptions $exceptions): void {
        $exceptions->dontReport([App\Engine\Rpc\EngineUnavailable::class, Lotrik\Refusal\Refusal::class]);
        $exceptions->render(static fn(Throwable $e, Request $request) => match (true) {
            // Not $request->is(): it fails on a path that is no UTF-8.
            str_starts_with($request->getPathInfo(), '/api/') => Problem::of($e)->response(),
            $e instanceof HttpExceptionInterface => response()->view('error', ['status' => $e->getStatusCode()], $e->getStatusCode()),
            default => null,
        });
    })
    ->create();
