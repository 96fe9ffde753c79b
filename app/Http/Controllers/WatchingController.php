<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Engine\Operation\Operation;
use App\Http\Requests\LookBackRequest;
use Illuminate\Http\JsonResponse;

/** Looking back on a contract's market: depth history, time and sales, bars. */
final class WatchingController extends ApiController
{
    public function depth(LookBackRequest $request): JsonResponse
    {
        return $this->ask($request, Operation::DepthHistory, ['contract' => $request->contract()->code] + $request->depth());
    }

    public function tape(LookBackRequest $request): JsonResponse
    {
        return $this->ask($request, Operation::Tape, ['contract' => $request->contract()->code] + $request->prints());
    }

    public function bars(LookBackRequest $request): JsonResponse
    {
        return $this->ask($request, Operation::Bars, ['contract' => $request->contract()->code] + $request->bars());
    }
}
