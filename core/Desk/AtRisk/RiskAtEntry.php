<?php

declare(strict_types=1);

namespace Lotrik\Desk\AtRisk;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Money\Money;

/** What a position's open lots were to lose at most when they were entered, without fees: what its R is counted in. */
final class RiskAtEntry
{
    /** Null while flat, and where an open lot was entered without a stop: it has no R. */
    public static function of(AccountPosition $holding, Contract $contract): ?Money
    {
        $ticks = $lots = 0;
        foreach ($holding->portions() as $of) {
            $stop = $of->slot->portion->stop;
            if ($of->slot->lots === 0 || $stop === null) {
                continue;
            }
            $ticks += $stop->distance * $of->slot->lots;
            $lots += $of->slot->lots;
        }

        return $lots === 0 || $lots !== abs($holding->position->lots) ? null : $contract->money($ticks);
    }
}
