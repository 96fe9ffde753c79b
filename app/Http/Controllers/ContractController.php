<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Engine\Operation\Operation;
use App\Http\Requests\ApiRequest;
use App\Http\Requests\BookRequest;
use App\Http\Resources\ContractResource;
use App\Models\ContractRow;
use Illuminate\Http\JsonResponse;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

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
        return $this->ask($request, Operation::Book, ['contract' => $request->contract()->code, 'levels' => $request->levels()]);
    }

    /** The days on which the venue is shut or closes early, and the hours of each contract. */
    public function calendar(ApiRequest $request): JsonResponse
    {
        return $this->ask($request, Operation::Calendar);
    }

    public function setCalendar(ApiRequest $request): JsonResponse
    {
        return $this->ask($request, Operation::SetCalendar, $request->fields());
    }

    public function calendarSchema(): BinaryFileResponse
    {
        return new BinaryFileResponse(base_path('docs/schemas/calendar.json'), 200, ['Content-Type' => 'application/schema+json']);
    }

    /** Steers the simulated market. */
    public function practice(ApiRequest $request): JsonResponse
    {
        return $this->ask($request, Operation::Practice, ['contract' => $request->contract()->code] + $request->fields());
    }
}
