<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Engine\Operation\Operation;
use App\Http\Requests\AccountRequest;
use App\Http\Requests\CommandRequest;
use App\Http\Requests\StepsRequest;
use Illuminate\Http\JsonResponse;

/** Flatten, reverse and cancel, for one contract or for a whole account, and what became of a command. */
final class TradingController extends ApiController
{
    public function flatten(CommandRequest $request): JsonResponse
    {
        return $this->onContract($request, Operation::Flatten);
    }

    public function reverse(CommandRequest $request): JsonResponse
    {
        return $this->onContract($request, Operation::Reverse);
    }

    /** Puts an exit plan on the open position, swaps it, or (null) takes it off. */
    public function cover(CommandRequest $request): JsonResponse
    {
        return $this->onContract($request, Operation::Cover);
    }

    /** A stop or a target for the open position, at a level. */
    public function setExit(CommandRequest $request): JsonResponse
    {
        return $this->onContract($request, Operation::SetExit);
    }

    public function breakEven(CommandRequest $request): JsonResponse
    {
        return $this->onContract($request, Operation::BreakEven);
    }

    public function tighten(CommandRequest $request): JsonResponse
    {
        return $this->onContract($request, Operation::Tighten);
    }

    /** One entry, or one portion of it, at the market. */
    public function close(CommandRequest $request): JsonResponse
    {
        return $this->onContract($request, Operation::ClosePart);
    }

    public function halfOff(CommandRequest $request): JsonResponse
    {
        return $this->onContract($request, Operation::HalfOff);
    }

    /** An action key: its steps, one after the other. */
    public function steps(CommandRequest $request): JsonResponse
    {
        return $this->onContract($request, Operation::Steps);
    }

    /** What the orders of action keys would be now. */
    public function previewSteps(StepsRequest $request): JsonResponse
    {
        return $this->ask($request, Operation::StepsPreview, ['contract' => $request->contract()->code] + $request->steps());
    }

    public function cancel(CommandRequest $request): JsonResponse
    {
        return $this->onContract($request, Operation::CancelMany);
    }

    public function flattenAccount(AccountRequest $request): JsonResponse
    {
        return $this->command($request, Operation::FlattenAccount);
    }

    public function cancelAccount(AccountRequest $request): JsonResponse
    {
        return $this->command($request, Operation::CancelMany);
    }

    /** What became of a command whose answer was lost; one that has not arrived is given up. */
    public function recall(AccountRequest $request): JsonResponse
    {
        return $this->command($request, Operation::Recall);
    }

    private function onContract(CommandRequest $request, Operation $op): JsonResponse
    {
        return $this->command($request, $op, ['contract' => $request->contract()->code]);
    }
}
