<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/**
 * A refusal is part of the page's work, and browsers write every status of 400 and more to the console as a fault of the page.
 * Whoever asks for it gets the same problem with 200, and the status in a header of its own.
 */
final class QuietProblems
{
    public const ASKS = 'Quiet-Problems';

    public const STATUS = 'Problem-Status';

    private const EXPECTED = [Response::HTTP_CONFLICT, Response::HTTP_UNPROCESSABLE_ENTITY];

    public function handle(Request $request, \Closure $next): Response
    {
        $response = $next($request);
        if ($request->headers->has(self::ASKS) && in_array($response->getStatusCode(), self::EXPECTED, true)) {
            $response->headers->set(self::STATUS, (string) $response->getStatusCode());
            $response->setStatusCode(Response::HTTP_OK);
        }

        return $response;
    }
}
