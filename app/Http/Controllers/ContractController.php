<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\JsonBody;
use App\Http\Page;
use App\Http\Resources\ContractResource;
use App\Http\WebRefusal;
use App\Models\ContractRow;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Gate;
use Lotrik\Refusal\Refusal;

final class ContractController extends ApiController
{
    /** `?q=` finds by code, name or alias. */
    public function index(Request $request): JsonResponse
    {
        $words = $request->query('q');
        $found = ContractRow::search(is_string($words) ? $words : '');

        return new JsonResponse(['items' => ContractResource::collection($found)->resolve($request), 'next' => null, 'sequence' => Page::sequence()]);
    }

    public function show(Request $request, string $code): JsonResponse
    {
        return new JsonResponse(ContractResource::make(self::find($code))->resolve($request));
    }

    public function book(Request $request, string $code): JsonResponse
    {
        self::find($code);
        $levels = Page::number($request, 'levels') ?? 20;
        if ($levels < 1 || $levels > 1000) {
            throw Refusal::invalid('levels', $levels, '1 to 1000');
        }

        return $this->ask($request, 'book', $this->account($request, $request->query('account')), ['contract' => $code, 'levels' => $levels]);
    }

    /** Steers the simulated market. */
    public function practice(Request $request, string $code): JsonResponse
    {
        Gate::authorize('steer-practice');
        self::find($code);

        return $this->ask($request, 'practice', $this->account($request, $request->query('account')), ['contract' => $code] + JsonBody::of($request));
    }

    /** @throws Refusal */
    public static function find(string $code): ContractRow
    {
        return ContractRow::query()->find($code) ?? throw WebRefusal::notFound("contract $code", '/api/contracts');
    }
}
