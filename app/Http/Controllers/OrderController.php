<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Engine\Operation\Operation;
use App\Http\Page;
use App\Http\Requests\CommandRequest;
use App\Http\Requests\OneOrderRequest;
use App\Http\Requests\OrderListRequest;
use App\Http\Resources\OrderResource;
use App\Models\OrderRow;
use Illuminate\Http\JsonResponse;

final class OrderController extends ApiController
{
    public function store(CommandRequest $request): JsonResponse
    {
        return $this->command($request, Operation::Place);
    }

    /** Two orders, one cancels the other. */
    public function pair(CommandRequest $request): JsonResponse
    {
        return $this->command($request, Operation::PlacePair);
    }

    public function tie(CommandRequest $request): JsonResponse
    {
        return $this->command($request, Operation::Tie);
    }

    public function untie(OneOrderRequest $request): JsonResponse
    {
        return $this->command($request, Operation::Untie, ['order' => $request->order()->id]);
    }

    public function preview(CommandRequest $request): JsonResponse
    {
        return $this->ask($request, Operation::Preview, $request->command());
    }

    /** How many lots an amount of risk allows. */
    public function size(CommandRequest $request): JsonResponse
    {
        return $this->ask($request, Operation::Size, $request->command());
    }

    public function previewChange(OneOrderRequest $request): JsonResponse
    {
        return $this->ask($request, Operation::PreviewChange, ['order' => $request->order()->id] + $request->command());
    }

    /** Working orders come from the engine, with their place in the queue; finished ones from the journal's tables. */
    public function index(OrderListRequest $request): JsonResponse
    {
        [$account, $state, $contract] = [$request->account(), $request->state(), $request->onlyContract()];
        if ($state === 'working') {
            return $this->ask($request, Operation::Orders, $contract === null ? [] : ['contract' => $contract->code]);
        }
        $orders = OrderRow::query()->with(['contract', 'watched'])->where('account_id', $account->id);
        if ($contract !== null) {
            $orders->where('contract_code', $contract->code);
        }
        if ($state === 'final') {
            $orders->where('working', false);
        }

        return Page::of($orders, $request, OrderResource::class);
    }

    public function show(OneOrderRequest $request): JsonResponse
    {
        $order = $request->order();

        return $order->working
            ? $this->ask($request, Operation::Order, ['order' => $order->id])
            : new JsonResponse(OrderResource::make($order)->resolve($request));
    }

    public function update(OneOrderRequest $request): JsonResponse
    {
        return $this->command($request, Operation::Modify, ['order' => $request->order()->id]);
    }

    public function destroy(OneOrderRequest $request): JsonResponse
    {
        return $this->command($request, Operation::Cancel, ['order' => $request->order()->id]);
    }
}
