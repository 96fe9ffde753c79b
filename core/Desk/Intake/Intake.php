<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Question\Asking;
use Lotrik\Desk\Question\Order\PriceBand;
use Lotrik\Desk\Quote;
use Lotrik\Desk\Quotes;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\ResolvedPlan;
use Lotrik\ExitPlan\InTicks\TrueRanges;
use Lotrik\ExitPlan\InvalidPlan;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Role;
use Lotrik\Refusal\Refusal;

/** Works an order request out against the account: what it would be, for how many lots, with which exits, and whether it may be. */
final class Intake
{
    public function __construct(private readonly DeskState $state, private readonly Asking $asking, private readonly Quotes $quotes) {}

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

    /** What an order that was held would be now that it is due, and whether it may be: as if it had just been sent. */
    public function due(DeskOrder $order, Quote $quote, int $at): Ticket
    {
        $holding = $this->state->holding($order->account, $order->contract)->withoutOrder($order->id);
        $request = OrderRequest::ofHeld($order, $this->state->contracts[$order->contract], $at);
        $closing = $holding->position->closedBy($order->side, $order->leaves());
        // Sent after its parent's fill it is what it would be now: it closes what the parent has opened.
        $isChild = $order->role === Role::Entry && $order->releaseWhen?->after !== null;
        $role = $isChild && ! $order->through && $closing > 0 ? Role::Close : $order->role;
        $quantity = $role === Role::Close ? $closing : $order->leaves();
        $opens = $role === Role::Close ? 0 : $quantity - $closing;
        $ticket = $this->again($order, $request, $role, $quantity, $closing, $opens, $holding, $quote);

        return $ticket->refused($this->asking->ofRelease($ticket, $this->state->accounts[$order->account], $holding, $quote));
    }

    /**
     * What a working order would be once it has been changed.
     *
     * @param int $lots of the whole order
     */
    public function changed(DeskOrder $order, Modification $change, int $lots, Quote $quote, int $at): Ticket
    {
        $request = OrderRequest::ofChanged($order, $this->state->contracts[$order->contract], $lots, $change->price, $change->trigger, $at);
        $holding = $this->state->holding($order->account, $order->contract);

        return $this->again($order, $request, $order->role, $lots, 0, $order->role === Role::Entry ? $lots : 0, $holding, $quote);
    }

    /** What a working entry asks for, as it is. */
    public function standing(DeskOrder $order, Quote $quote, int $at): Ticket
    {
        $request = OrderRequest::ofChanged($order, $this->state->contracts[$order->contract], $order->quantity, null, null, $at);
        $holding = $this->state->holding($order->account, $order->contract);

        return $this->again($order, $request, $order->role, $order->leaves(), 0, $order->leaves(), $holding, $quote);
    }

    /** An order that was taken before, worked out anew with the plan that it carries. */
    private function again(
        DeskOrder $order,
        OrderRequest $request,
        Role $role,
        int $lots,
        int $closes,
        int $opens,
        AccountPosition $holding,
        Quote $quote,
    ): Ticket {
        $at = $request->trigger ?? $request->price ?? $quote->touch($request->side);
        $plan = $order->plan === null || $role !== Role::Entry ? null : PlanTicks::atFill($order, $at ?? 1, $this->state)->plan;

        return new Ticket(
            $request, $role, $lots, $closes, $opens, $at, $plan, null,
            joins: $opens > 0 && $closes === 0 ? $holding->coveringEntry() : null,
        );
    }

    /**
     * @param AccountPosition|null $holding what the account has; another one to ask "what if it were so"
     * @param int                  $sent    entries that the same command has sent before
     */
    public function work(OrderRequest $request, Account $account, Quote $quote, ?AccountPosition $holding = null, int $sent = 0): Ticket
    {
        $holding ??= $this->state->holding($account->id, $request->contract->code);
        $ticket = $this->workedOut($request, $account, $quote, $holding);

        return $ticket->refusal === null
            ? $ticket->refused($this->asking->ofOrders([$ticket], $account, $holding, $quote, $sent))
            : $ticket;
    }

    /** The same before anybody is asked whether it may be. */
    public function workedOut(OrderRequest $request, Account $account, Quote $quote, AccountPosition $holding): Ticket
    {
        $open = $holding->position->closedBy($request->side, PHP_INT_MAX);
        $closes = $request->through === false || ($open > 0 && $request->through !== true);
        $quantity = $closes && $open > 0 ? min($request->quantity, $this->closable($request, $holding, $open)) : $request->quantity;
        if ($request->cutsToBand && ! $closes) {
            $quantity = $this->cut($request, $account, $quote);
        }
        $closing = min($quantity, $open);
        $at = match ($request->kind) {
            OrderKind::Market => $quote->touch($request->side),
            OrderKind::Limit => $request->price,
            OrderKind::Stop, OrderKind::StopLimit, OrderKind::IfTouched => $request->trigger,
        };
        $plan = $refusal = $ranges = null;
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

        return new Ticket(
            $request, $closes ? Role::Close : Role::Entry, $quantity, $closing, $opens, $at, $plan, $refusal, $ranges,
            $opens > 0 && $closing === 0 ? $holding->coveringEntry() : null,
        );
    }

    /** The lots that stay within the price band; all of them where none do, and the band refuses them. */
    private function cut(OrderRequest $request, Account $account, Quote $quote): int
    {
        $band = $account->limits->in($request->contract->code)->bandTicks;
        $market = $quote->touch($request->side);
        if ($band === null || $market === null) {
            return $request->quantity;
        }
        $sweep = Sweep::of($this->quotes, $request->contract, $request->side, $request->quantity, $account->id);
        $fit = PriceBand::isReachedBy($sweep, $request->side, $market, $band)
            ? $sweep->within($market + $request->side->sign() * $band)
            : $request->quantity;

        return $fit > 0 ? min($fit, $request->quantity) : $request->quantity;
    }

    /** A closing stop takes the lots that no stop covers yet; where all are covered it is refused, and its lots are as asked for. */
    private function closable(OrderRequest $request, AccountPosition $holding, int $open): int
    {
        $uncovered = $request->kind->isStop() ? $holding->coverage()->uncovered() : $open;

        return $uncovered > 0 ? $uncovered : $open;
    }
}
