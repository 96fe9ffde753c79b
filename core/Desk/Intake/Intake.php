<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Account\DeskOrder;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Intake\Check\EntryCheck;
use Lotrik\Desk\Quote;
use Lotrik\Desk\Quotes;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\ResolvedPlan;
use Lotrik\ExitPlan\InTicks\TrueRanges;
use Lotrik\ExitPlan\InvalidPlan;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Role;
use Lotrik\Refusal\Refusal;

/** Works an order request out and runs the checks that stand before an order is taken, in their order. */
final class Intake
{
    /** @var list<EntryCheck> */
    private readonly array $checks;

    public function __construct(private readonly DeskState $state, Quotes $quotes)
    {
        $this->checks = [
            new Check\AccountOpen($state),
            new Check\NotBarred($state),
            new Check\EntriesNotStopped($state),
            new Check\OutsideWindows(),
            new Check\NotBeforeClose(),
            new Check\RateKnown(),
            new Check\SessionOpen(),
            new Check\NotFlattening(),
            new Check\SomethingToClose(),
            new Check\LotsWithoutStop(),
            new Check\WithinPriceLimits(),
            new Check\StopNotPassed(),
            new Check\PriceBand(),
            new Check\OrderSize(),
            new Check\PositionLimit(),
            new Check\WorkingOrders(),
            new Check\StopRequired(),
            new Check\TradeRisk(),
            new Check\BuyingPower($state, $quotes),
            new Check\OrderRate($state),
        ];
    }

    /** A plan in ticks for so many lots of the open position. @throws Refusal where it does not fit */
    public function fitted(
        ?ExitPlan $plan,
        Account $account,
        Contract $contract,
        AccountPosition $holding,
        int $lots,
        TrueRanges $ranges,
    ): ?ResolvedPlan {
        try {
            return $plan?->resolve(PlanTicks::basis(
                $this->state, $account->id, $contract->code, $holding->position->anchor(), $lots, $ranges,
            ));
        } catch (InvalidPlan $fault) {
            throw Refusal::planDoesNotFit($fault, '/exit_plan');
        }
    }

    /** @throws Refusal where too few bars have closed */
    public function ranges(?ExitPlan $plan, Quote $quote, int $at): TrueRanges
    {
        try {
            return $plan === null ? TrueRanges::none() : TrueRanges::for($plan, $quote->bars, $at);
        } catch (InvalidPlan $fault) {
            throw Refusal::planDoesNotFit($fault, '/exit_plan');
        }
    }

    /** Why an order that was held would not be taken now that it is due: all checks anew, as if it had just been sent. */
    public function refusalNow(DeskOrder $order, Quote $quote, int $at): ?Refusal
    {
        $holding = clone $this->state->holding($order->account, $order->contract);
        unset($holding->working[$order->id]);
        $closing = $holding->position->closedBy($order->side, $order->leaves());
        $opens = $order->role === Role::Close ? 0 : $order->leaves() - $closing;
        $request = OrderRequest::ofHeld($order, $this->state->contracts[$order->contract], $at);
        $ticket = $this->again($order, $request, $order->leaves(), $closing, $opens, $holding, $quote);

        // It was counted when it was placed.
        return $this->firstRefusal($ticket, $this->state->accounts[$order->account], $holding, $quote, Check\OrderRate::class);
    }

    /** Why a working entry cannot be what a change would make of it: what it could lose, and how much worse it could be filled. */
    public function refusalOfChange(DeskOrder $order, Modification $change, Quote $quote, int $at): ?Refusal
    {
        if ($order->role !== Role::Entry || $change->isNothing($order)) {
            return null;
        }
        $holding = $this->state->holding($order->account, $order->contract);
        $lots = $order->leaves() + $change->lotsChange($order);
        $request = OrderRequest::ofChanged($order, $this->state->contracts[$order->contract], $lots, $change->price, $change->trigger, $at);
        $ticket = $this->again($order, $request, $lots, 0, $lots, $holding, $quote);
        foreach ([new Check\PriceBand(), new Check\TradeRisk()] as $check) {
            $refusal = $check->refuse($ticket, $this->state->accounts[$order->account], $holding, $quote);
            if ($refusal !== null) {
                return $refusal;
            }
        }

        return null;
    }

    /** An order that was taken before, worked out anew with the plan that it carries. */
    private function again(
        DeskOrder $order,
        OrderRequest $request,
        int $lots,
        int $closes,
        int $opens,
        AccountPosition $holding,
        Quote $quote,
    ): Ticket {
        $at = $request->trigger ?? $request->price ?? $quote->touch($request->side);
        $plan = $order->plan === null || $order->role !== Role::Entry ? null : PlanTicks::atFill($order, $at ?? 1, $this->state)->plan;

        return new Ticket(
            $request, $order->role, $lots, $closes, $opens, $at, $plan, null,
            joins: $opens > 0 && $closes === 0 ? $holding->coveringEntry() : null,
        );
    }

    /** @param class-string<EntryCheck>|null $except a check that was made before */
    private function firstRefusal(
        Ticket $ticket,
        Account $account,
        AccountPosition $holding,
        Quote $quote,
        ?string $except = null,
    ): ?Refusal {
        foreach ($this->checks as $check) {
            if ($check::class === $except) {
                continue;
            }
            $refusal = $check->refuse($ticket, $account, $holding, $quote);
            if ($refusal !== null) {
                return $refusal;
            }
        }

        return null;
    }

    /** @param AccountPosition|null $holding what the account has; another one to ask "what if it were so" */
    public function work(OrderRequest $request, Account $account, Quote $quote, ?AccountPosition $holding = null): Ticket
    {
        $holding ??= $this->state->holding($account->id, $request->contract->code);
        $open = $holding->position->closedBy($request->side, PHP_INT_MAX);
        $closes = $request->through === false || ($open > 0 && $request->through !== true);
        $quantity = $closes && $open > 0 ? min($request->quantity, $this->closable($request, $holding, $open)) : $request->quantity;
        $closing = min($quantity, $open);
        $at = match ($request->kind) {
            OrderKind::Market => $quote->touch($request->side),
            OrderKind::Limit => $request->price,
            OrderKind::Stop, OrderKind::StopLimit, OrderKind::IfTouched => $request->trigger,
        };
        $plan = null;
        $refusal = null;
        $ranges = null;
        if (! $closes && $request->plan !== null) {
            try {
                $ranges = $request->ranges ?? TrueRanges::for($request->plan, $quote->bars, $request->now);
                $plan = $request->plan->resolve(PlanTicks::basis(
                    $this->state, $account->id, $request->contract->code, $at ?? 1, $quantity, $ranges,
                ));
            } catch (InvalidPlan $fault) {
                $refusal = Refusal::planDoesNotFit($fault, '/exit_plan');
            }
        }
        $opens = $closes ? 0 : $quantity - $closing;
        $ticket = new Ticket(
            $request, $closes ? Role::Close : Role::Entry, $quantity, $closing, $opens, $at, $plan, $refusal,
            joins: $opens > 0 && $closing === 0 ? $holding->coveringEntry() : null,
        );
        $refusal ??= $this->firstRefusal($ticket, $account, $holding, $quote);

        return new Ticket(
            $request, $ticket->role, $quantity, $closing, $opens, $at, $plan, $refusal, $ranges, $ticket->joins,
        );
    }

    /** A closing stop takes the lots that no stop covers yet; where all are covered it is refused, and its lots are as asked for. */
    private function closable(OrderRequest $request, AccountPosition $holding, int $open): int
    {
        $uncovered = $request->kind->isStop() ? $holding->coverage()->uncovered() : $open;

        return $uncovered > 0 ? $uncovered : $open;
    }
}
