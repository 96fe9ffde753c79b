<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Account\DeskOrder;
use Lotrik\Desk\Account\Entry;
use Lotrik\Desk\DeskState;
use Lotrik\ExitPlan\InTicks\ResolvedPlan;
use Lotrik\Money\Money;

/** What the lots of an entry lose at their stops, fees both ways included. */
final class EntryRisk
{
    /** In the contract's currency; null where a lot of it would have no stop, and so no limit. */
    public static function of(Ticket $ticket): ?Money
    {
        $contract = $ticket->request->contract;
        $lots = $ticket->mayOpenLots();
        $ticks = $ticket->joins !== null
            ? self::joining($ticket->joins, $ticket->at, $lots)
            : self::planned($ticket->plan, $lots);

        return $ticks === null ? null : $contract->money($ticks)->plus($contract->fees(2 * $lots));
    }

    /** Of so many lots under a plan, in the contract's currency; null where a lot of them would have no stop. */
    public static function ofPlan(ResolvedPlan $plan, Contract $contract, int $lots): ?Money
    {
        $ticks = self::planned($plan, $lots);

        return $ticks === null ? null : $contract->money($ticks)->plus($contract->fees(2 * $lots));
    }

    /** Whether each lot of a working entry will have its stop. */
    public static function isLimited(DeskOrder $order, AccountPosition $holding, DeskState $state): bool
    {
        $joins = $holding->coveringEntry();
        $tick = $order->price ?? $order->trigger ?? 1;

        return ($joins === null
            ? self::planned(PlanTicks::atFill($order, $tick, $state)->plan, $order->leaves())
            : self::joining($joins, $tick, $order->leaves())) !== null;
    }

    private static function planned(?ResolvedPlan $plan, int $lots): ?int
    {
        if ($plan === null || $plan->protectedLots($lots) < $lots) {
            return null;
        }
        $ticks = 0;
        foreach ($plan->split($lots) as $number => $n) {
            $ticks += ($plan->portion($number)->stop->distance ?? 0) * $n;
        }

        return $ticks;
    }

    /** Lots that join the exits of a position: the farthest of its stops counts for all of them. */
    private static function joining(Entry $set, ?int $at, int $lots): ?int
    {
        $farthest = 0;
        foreach ($set->exits->slots() as $slot) {
            if ($slot->lots === 0) {
                continue;
            }
            if (! $slot->wantsStop() || $slot->stop === null || $at === null) {
                return null;
            }
            $farthest = max($farthest, $set->exits->side->sign() * ($at - $slot->stop));
        }

        return $farthest * $lots;
    }
}
