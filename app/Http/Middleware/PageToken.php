<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Illuminate\Foundation\Http\Middleware\ValidateCsrfToken;

/** The token against forged requests stands in the page, and in no cookie. */
final class PageToken extends ValidateCsrfToken
{
    protected $addHttpCookie = false;
}
