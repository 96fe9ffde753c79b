<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Symfony\Component\HttpFoundation\BinaryFileResponse;

/** The API's own description (OpenAPI 3.1). */
final class OpenApiController
{
    public function __invoke(): BinaryFileResponse
    {
        return new BinaryFileResponse(base_path('docs/openapi.json'), 200, ['Content-Type' => 'application/json']);
    }
}
