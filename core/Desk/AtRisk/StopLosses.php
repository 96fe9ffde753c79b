<?php

declare(strict_types=1);

namespace Lotrik\Desk\AtRisk;

use Lotrik\Money\Fraction;
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
    public static function of(ProtectedPosition $open, ?int $mark, DepthWalk $depth, int $gap): array
    {
        $contract = $open->contract;
        $sign = $open->position->lots <=> 0;
        $parts = $open->parts;
        usort($parts, static fn(StoppedLots $a, StoppedLots $b): int => $sign * ($b->stop <=> $a->stop));
        $losses = [];
        foreach ($parts as $part) {
            [$lots, $stop] = [$part->lots, $part->stop];
            $all = Fraction::of($sign * $lots);
            $ticks = static fn(Fraction $from): Fraction => $from->minus(Fraction::of($stop))->times($all);
            $fees = $contract->fees($lots);
            [$filled, $missing] = $depth->take($lots, $stop, -$sign);
            // Lots that are not open yet come in where they would, with the fees of that.
            $here = $part->wouldBe ?? $mark;
            $losses[] = new StopLoss(
                $part->entry,
                $part->portion,
                $part->order,
                $lots,
                $stop,
                $contract->money($here === null ? 0 : $ticks(Fraction::of($here)))->plus($fees->times($part->wouldBe === null ? 1 : 2)),
                $contract->money($ticks(Fraction::of($part->wouldBe ?? $open->position->average)))->plus($fees->times(2)),
                Fraction::ratio($filled, $lots),
                $missing,
                $contract->money($sign * ($stop * $lots - $filled)),
                $contract->money($gap * $lots),
            );
        }

        return $losses;
    }
}
