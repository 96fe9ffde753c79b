<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Illuminate\Http\Request;
use Illuminate\Support\Facades\Vite;
use Symfony\Component\HttpFoundation\Response;

/** A strict content security policy on every page: only what ships with the app, and the stream on its own port. */
final class ContentSecurity
{
    public function handle(Request $request, \Closure $next): Response
    {
        // What Radix writes as a style while a sheet is open carries it; see app.tsx.
        $nonce = Vite::useCspNonce();
        $response = $next($request);
        $stream = 'http://'.$request->getHost().':'.config('lotrik.stream_port');
        $response->headers->set(
            'Content-Security-Policy',
            "default-src 'none'; script-src 'self'; style-src 'self' 'nonce-$nonce'; img-src 'self' data:; font-src 'self'; connect-src "
                ."'self' $stream; "
                ."form-action 'self'; base-uri 'none'; frame-ancestors 'none'",
        );
        $response->headers->set('X-Content-Type-Options', 'nosniff');
        $response->headers->set('Referrer-Policy', 'same-origin');
        $response->headers->set('Cross-Origin-Opener-Policy', 'same-origin');
        if (! $response->headers->hasCacheControlDirective('max-age')) {
            $response->headers->set('Cache-Control', 'no-store');
        }

        return $response;
    }
}
