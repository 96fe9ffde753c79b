<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake;

use Lotrik\Contract\Contract;
use Lotrik\ExitPlan\InTicks\ResolvedPlan;
use Lotrik\Money\Money;

/** What the lots of an entry lose at their plan's stops, fees both ways included. */
final class EntryRisk
{
    /** In the contract's currency; null where a lot of it would have no stop, and so no limit. */
    public static function ofPlan(ResolvedPlan $plan, Contract $contract, int $lots): ?Money
    {
        if ($plan->protectedLots($lots) < $lots) {
            return null;
        }
        $ticks = 0;
        foreach ($plan->split($lots) as $number => $n) {
            $ticks += ($plan->portion($number)->stop->distance ?? 0) * $n;
        }

        return $contract->money($ticks)->plus($contract->fees(2 * $lots));
    }
}
