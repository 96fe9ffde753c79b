<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Illuminate\Contracts\Session\Session;
use Illuminate\Http\Request;
use Illuminate\Session\Middleware\StartSession;
use Illuminate\Support\Facades\Auth;
use Symfony\Component\HttpFoundation\Response;

/**
 * A signed-in session is written when somebody signs in, and only read after that: several tabs always have requests
 * on their way, and one that had begun before a sign-out and ends after it would write the session anew, and sign the
 * browser in again.
 */
final class KeepSession extends StartSession
{
    /** What is in use does not grow old; what has been signed out meanwhile is not made anew; who is not signed in leaves nothing. */
    protected function saveSession($request): void
    {
        if (! Auth::check()) {
            return;
        }
        if (! self::isOnlyRead($request)) {
            parent::saveSession($request);
        } elseif (is_file($file = self::file($request->session()))) {
            touch($file);
        }
    }

    protected function addCookieToResponse(Response $response, Session $session): void
    {
        if (Auth::check() && (! self::isOnlyRead(request()) || is_file(self::file($session)))) {
            parent::addCookieToResponse($response, $session);
        }
    }

    private static function isOnlyRead(Request $request): bool
    {
        $session = $request->session();

        return $request->cookies->get($session->getName()) === $session->getId() && Auth::check();
    }

    private static function file(Session $session): string
    {
        return config('session.files').'/'.$session->getId();
    }
}
