<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\ApiRequest;
use App\Http\Requests\BookRequest;
use App\Http\Resources\ContractResource;
use App\Models\ContractRow;
use Illuminate\Http\JsonResponse;

final class ContractController extends ApiController
{
    /** `?q=` finds by code, name or alias. */
    public function index(ApiRequest $request): JsonResponse
    {
        $words = $request->query('q');

        return self::whole(ContractResource::collection(ContractRow::search(is_string($words) ? $words : ''))->resolve($request));
    }

    public function show(ApiRequest $request): JsonResponse
    {
        return new JsonResponse(ContractResource::make($request->contract())->resolve($request));
    }

    public function book(BookRequest $request): JsonResponse
    {
        return $this->ask($request, 'book', ['contract' => $request->contract()->code, 'levels' => $request->levels()]);
    }

    /** Steers the simulated market. */
    public function practice(ApiRequest $request): JsonResponse
    {
        return $this->ask($request, 'practice', ['contract' => $request->contract()->code] + $request->fields());
    }
}
