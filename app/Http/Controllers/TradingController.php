<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\JsonBody;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** Flatten, reverse and cancel: for one contract, or for a whole account. */
final class TradingController extends ApiController
{
    public function flatten(Request $request, string $code): JsonResponse
    {
        return $this->onContract($request, 'flatten', $code);
    }

    public function reverse(Request $request, string $code): JsonResponse
    {
        return $this->onContract($request, 'reverse', $code);
    }

    /** Puts an exit plan on the open position, swaps it, or (null) takes it off. */
    public function cover(Request $request, string $code): JsonResponse
    {
        return $this->onContract($request, 'cover', $code);
    }

    /** A stop or a target for the open position, at a level. */
    public function setExit(Request $request, string $code): JsonResponse
    {
        return $this->onContract($request, 'set-exit', $code);
    }

    public function breakEven(Request $request, string $code): JsonResponse
    {
        return $this->onContract($request, 'break-even', $code);
    }

    public function tighten(Request $request, string $code): JsonResponse
    {
        return $this->onContract($request, 'tighten', $code);
    }

    /** One entry, or one portion of it, at the market. */
    public function close(Request $request, string $code): JsonResponse
    {
        return $this->onContract($request, 'close-part', $code);
    }

    public function halfOff(Request $request, string $code): JsonResponse
    {
        return $this->onContract($request, 'half-off', $code);
    }

    public function cancel(Request $request, string $code): JsonResponse
    {
        return $this->onContract($request, 'cancel-many', $code);
    }

    public function flattenAccount(Request $request, string $id): JsonResponse
    {
        return $this->command($request, 'flatten-account', $this->account($request, $id), JsonBody::of($request));
    }

    public function cancelAccount(Request $request, string $id): JsonResponse
    {
        return $this->command($request, 'cancel-many', $this->account($request, $id), JsonBody::of($request));
    }

    private function onContract(Request $request, string $op, string $code): JsonResponse
    {
        ContractController::find($code);
        $body = JsonBody::of($request);

        return $this->command($request, $op, $this->accountIn($request, $body), $body, ['contract' => $code]);
    }
}
