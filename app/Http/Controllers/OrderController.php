<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\JsonBody;
use App\Http\Page;
use App\Http\Resources\OrderResource;
use App\Models\OrderRow;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Lotrik\Refusal\Refusal;

final class OrderController extends ApiController
{
    public function store(Request $request): JsonResponse
    {
        $body = JsonBody::of($request);

        return $this->command($request, 'place', $this->accountIn($request, $body), $body);
    }

    /** Two orders, one cancels the other. */
    public function pair(Request $request): JsonResponse
    {
        $body = JsonBody::of($request);

        return $this->command($request, 'place-pair', $this->accountIn($request, $body), $body);
    }

    public function tie(Request $request): JsonResponse
    {
        $body = JsonBody::of($request);

        return $this->command($request, 'tie', $this->accountIn($request, $body), $body);
    }

    public function untie(Request $request, string $id): JsonResponse
    {
        $account = $this->find($request, $id)->account_id;

        return $this->command($request, 'untie', $account, JsonBody::of($request), ['order' => (int) $id]);
    }

    public function preview(Request $request): JsonResponse
    {
        $body = JsonBody::of($request);

        return $this->ask($request, 'preview', $this->accountIn($request, $body), $this->withPlan($request, $body));
    }

    /** Working orders come from the engine, with their place in the queue; finished ones from the journal's tables. */
    public function index(Request $request): JsonResponse
    {
        $account = $this->account($request, $request->query('account'));
        $state = $request->query('state');
        $code = $request->query('contract');
        if ($code !== null) {
            ContractController::find((string) $code);
        }
        if ($state === 'working') {
            return $this->ask($request, 'orders', $account, $code === null ? [] : ['contract' => $code]);
        }
        if ($state !== null && $state !== 'final') {
            throw Refusal::invalid('state', $state, 'working or final');
        }
        $orders = OrderRow::query()->with(['contract', 'watched'])->where('account_id', $account)->when($code !== null, static fn(Builder $rows) => $rows->where('contract_code', $code));
        if ($state === 'final') {
            $orders->where('working', 0);
        }

        return Page::of($orders, $request, OrderResource::class);
    }

    public function show(Request $request, string $id): JsonResponse
    {
        $order = $this->find($request, $id);

        return $order->working ? $this->ask($request, 'order', $order->account_id, ['order' => $order->id]) : new JsonResponse(OrderResource::make($order)->resolve($request));
    }

    public function update(Request $request, string $id): JsonResponse
    {
        $account = $this->find($request, $id)->account_id;

        return $this->command($request, 'modify', $account, JsonBody::of($request), ['order' => (int) $id]);
    }

    /** A cancel needs no client id of the caller's: it can be sent again without harm. */
    public function destroy(Request $request, string $id): JsonResponse
    {
        $account = $this->find($request, $id)->account_id;

        return $this->command($request, 'cancel', $account, JsonBody::of($request) + ['client_id' => bin2hex(random_bytes(12))], ['order' => (int) $id]);
    }

    /** @throws Refusal where there is none, or it is somebody else's: the two look the same */
    private function find(Request $request, string $id): OrderRow
    {
        $order = ctype_digit($id) ? OrderRow::query()->find((int) $id) : null;
        try {
            $mine = $order !== null && $this->account($request, $order->account_id) > 0;
        } catch (Refusal) {
            $mine = false;
        }

        return $mine ? $order : throw Refusal::orderNotFound($id);
    }
}
