<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Illuminate\Auth\AuthenticationException;
use Illuminate\Cookie\Middleware\AddQueuedCookiesToResponse;
use Illuminate\Cookie\Middleware\EncryptCookies;
use Illuminate\Http\Request;
use Illuminate\Pipeline\Pipeline;
use Illuminate\Support\Facades\Auth;
use Symfony\Component\HttpFoundation\Response;

/** A script shows its bearer token; the page its session, with the CSRF token. Neither pays for the other's work. */
final class Authenticated
{
    public function __construct(private readonly Pipeline $pipeline) {}

    public function handle(Request $request, \Closure $next): Response
    {
        if ($request->bearerToken() !== null) {
            Auth::shouldUse('sanctum');

            return $this->signedIn($request, $next);
        }

        return $this->pipeline->send($request)
            ->through([EncryptCookies::class, AddQueuedCookiesToResponse::class, KeepSession::class, PageToken::class])
            ->then(fn(Request $request): Response => $this->signedIn($request, $next));
    }

    private function signedIn(Request $request, \Closure $next): Response
    {
        return Auth::check() ? $next($request) : throw new AuthenticationException();
    }
}
