<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Illuminate\Http\Request;
use Illuminate\Session\TokenMismatchException;
use Symfony\Component\HttpFoundation\Response;

/**
 * For forms of people who are not signed in, and so have no session to keep a token in: a browser says where a form
 * came from. Source: Fetch, "Origin header".
 */
final class OwnOrigin
{
    public function handle(Request $request, \Closure $next): Response
    {
        $origin = $request->headers->get('Origin');
        if ($origin !== null && strtolower((string) substr(
            (string) strstr($origin, '://'),
            3,
        )) !== strtolower((string) $request->headers->get('Host'))) {
            throw new TokenMismatchException();
        }

        return $next($request);
    }
}
