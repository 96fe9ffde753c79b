<?php

declare(strict_types=1);

namespace Lotrik\Desk\Account;

use Brick\Math\BigRational;
use Lotrik\Contract\Contract;
use Lotrik\Risk\DepthWalk;
use Lotrik\Risk\StopLoss;

/** What each stop of a position loses where it fills: at its trigger, in the depth of now, and after a gap. */
final class StopLosses
{
    /**
     * @param int|null $mark where the trader could get out now, in ticks; null before any price
     * @param int      $gap  ticks through each stop
     *
     * @return list<StopLoss> the nearest to the market first
     */
    public static function of(AccountPosition $holding, Contract $contract, ?int $mark, DepthWalk $depth, int $gap): array
    {
        $sign = $holding->position->lots <=> 0;
        $parts = $holding->coverage()->byPortion();
        usort($parts, static fn(array $a, array $b): int => $sign * ($b[1]->stop <=> $a[1]->stop));
        $losses = [];
        foreach ($parts as [$of, $part]) {
            [$lots, $stop] = [$part->lots, $part->stop];
            $ticks = static fn(BigRational|int $from): BigRational => BigRational::of($from)->minus($stop)->multipliedBy($sign * $lots);
            $fees = $contract->fees($lots);
            [$fill, $missing] = $depth->take($lots, $stop, -$sign);
            $losses[] = new StopLoss(
                $of->entry->order,
                $of->slot->portion->number,
                $lots,
                $stop,
                $contract->money($mark === null ? 0 : $ticks($mark))->plus($fees),
                $contract->money($ticks($holding->position->average))->plus($fees->times(2)),
                $fill,
                $missing,
                $contract->money(BigRational::of($stop)->minus($fill)->multipliedBy($sign * $lots)),
                $contract->money($gap * $lots),
            );
        }

        return $losses;
    }
}
