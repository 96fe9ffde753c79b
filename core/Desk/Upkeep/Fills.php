<?php

declare(strict_types=1);

namespace Lotrik\Desk\Upkeep;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Intake\PlanTicks;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\ExitPlan\PlanScope;

/** Works out what a fill does before it is recorded, so that applying it has nothing to decide. */
final class Fills
{
    public static function split(DeskOrder $order, int $lots, int $tick, DeskState $state): FillSplit
    {
        $holding = $state->holding($order->account, $order->contract);
        $closes = $order->role->isExit() ? $lots : $holding->position->closedBy($order->side, $lots);
        $opens = $lots - $closes;
        if ($opens === 0) {
            return new FillSplit($closes, null, null, null, null);
        }
        // Beyond flat there is nothing left that could be joined.
        $set = $closes > 0 ? null : $holding->coveringEntry();
        $entry = $holding->entries[$order->id] ?? null;
        $exits = $adjusted = null;
        if ($set === null && $entry === null) {
            $atFill = PlanTicks::atFill($order, $tick, $state);
            $adjusted = $atFill->adjusted;
            $exits = $atFill->plan->toArray();
            $covers = $atFill->plan->covers;
        } else {
            $covers = ($set ?? $entry)->exits->plan->covers;
        }
        $position = $closes > 0 ? $opens : abs($holding->position->lots) + $opens;
        $others = $position > $opens + ($set?->exits->openLots() ?? 0);

        return new FillSplit(
            $closes,
            $exits,
            $set?->order,
            $covers === PlanScope::Position && $others ? $holding->coverage()->tightestStop() : null,
            $adjusted,
        );
    }
}
