<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\LookBackRequest;
use Illuminate\Http\JsonResponse;

/** Looking back on a contract's market: depth history, time and sales, bars. */
final class WatchingController extends ApiController
{
    public function depth(LookBackRequest $request): JsonResponse
    {
        return $this->ask($request, 'depth-history', ['contract' => $request->contract()->code] + $request->depth());
    }

    public function tape(LookBackRequest $request): JsonResponse
    {
        return $this->ask($request, 'tape', ['contract' => $request->contract()->code] + $request->prints());
    }

    public function bars(LookBackRequest $request): JsonResponse
    {
        return $this->ask($request, 'bars', ['contract' => $request->contract()->code] + $request->bars());
    }
}
