<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake;

use Lotrik\Desk\Account\Balance;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\Basis;
use Lotrik\ExitPlan\InTicks\PlanAtFill;
use Lotrik\ExitPlan\InTicks\ResolvedPlan;
use Lotrik\ExitPlan\InTicks\TrueRanges;

/** An order's exit plan in ticks: checked when it is sent or changed, worked out for good at its first fill. */
final class PlanTicks
{
    /** What distances are turned into ticks with: an account's balance counts in the contract's currency. */
    public static function basis(
        DeskState $state,
        int $account,
        string $contract,
        int $tick,
        int $quantity,
        ?TrueRanges $ranges = null,
    ): Basis {
        $of = $state->contracts[$contract];
        $account = $state->accounts[$account];

        return new Basis(
            $of,
            $tick,
            $quantity,
            $account->rates->knows($of->currency) ? $account->rates->fromBase(Balance::of($account, $state), $of->currency) : null,
            $ranges,
        );
    }

    /** An order's plan at the price of its first fill. */
    public static function atFill(DeskOrder $order, int $tick, DeskState $state): PlanAtFill
    {
        return $order->plan === null ? new PlanAtFill(ResolvedPlan::none())
            : ExitPlan::fromArray($order->plan)->resolveFilled(self::basis(
                $state, $order->account, $order->contract, $tick, $order->quantity, TrueRanges::fromArray($order->ranges),
            ));
    }
}
