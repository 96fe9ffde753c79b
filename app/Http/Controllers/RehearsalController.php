<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\RehearsalRequest;
use Illuminate\Http\JsonResponse;

/** Tries a plan, saved or not, on a drawn line, on what has just traded, or on a tape: as `lotrik:rehearse` does. */
final class RehearsalController extends ApiController
{
    public function store(RehearsalRequest $request): JsonResponse
    {
        return new JsonResponse($request->rehearse($this->engine));
    }
}
