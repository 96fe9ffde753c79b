<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Exception\HttpException;

/** Answers only to its own names: a foreign page whose name is made to point here gets nothing. Source: RFC 9110, 15.5.20. */
final class KnownHost
{
    public function handle(Request $request, \Closure $next): Response
    {
        $host = self::of($request);
        if (! in_array($host, config('lotrik.names'), true)) {
            // The page that says so has addresses in it, and none can be made of a name that is no name.
            $request->headers->set('Host', (string) config('lotrik.names')[0]);

            throw new HttpException(421, 'this server does not answer to "'.mb_scrub($host).'"; start it with --names to let it');
        }

        return $next($request);
    }

    /** The name that was asked for, without its port, in lower case. */
    public static function of(Request $request): string
    {
        return strtolower((string) preg_replace('/:\d*$/', '', (string) $request->headers->get('Host')));
    }
}
