<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Http\WebRefusal;
use Illuminate\Http\Request;
use Lotrik\Refusal\Refusal;
use Symfony\Component\HttpFoundation\Response;

/** A route takes the query parameters that it names, each once and as text, and no others. */
final class KnownQuery
{
    public function handle(Request $request, \Closure $next): Response
    {
        /** @var list<string> $names */
        $names = $request->route()->getAction('takes') ?? [];
        foreach ($request->query->all() as $name => $value) {
            $name = (string) $name;
            if (! in_array($name, $names, true)) {
                throw WebRefusal::unknownQuery($name, $names);
            }
            if (! is_string($value) || ! mb_check_encoding($value, 'UTF-8') || preg_match('/[\x00-\x1f\x7f]/', $value) === 1) {
                throw Refusal::invalid($name, $value, 'one line of text');
            }
        }

        return $next($request);
    }
}
