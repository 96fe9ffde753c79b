<?php

declare(strict_types=1);

namespace Lotrik\Risk;

use Brick\Math\BigRational;
use Lotrik\Contract\Contract;
use Lotrik\Money\Money;
use Lotrik\Position\Position;

/**
 * What a position can still lose: for each lot the loss at its stop plus the fees of its round trip, measured from
 * the position's average. What stops on the profit side lock in is kept apart and not netted against it, and lots
 * without a stop are counted, since their risk has no limit.
 */
final readonly class OpenRisk
{
    private function __construct(
        public Money $risk,
        public Money $lockedIn,
        public int $unprotected,
        /** What is given up if every stop is hit from here: open P/L minus P/L at the stops, plus the fees to get out. */
        public Money $fromHere,
    ) {}

    /**
     * @param list<ProtectedLots> $protected
     * @param int|null            $mark      tick at which the trader could get out now; null before any price
     */
    public static function of(Position $position, Contract $contract, array $protected, ?int $mark): self
    {
        $sign = $position->lots <=> 0;
        $risk = $locked = Money::zero($contract->currency);
        $atStops = BigRational::zero();
        $covered = 0;
        foreach ($protected as $part) {
            [$lots, $stop] = [$part->lots, $part->stop];
            $ticks = BigRational::of($stop)->minus($position->average)->multipliedBy($sign * $lots);
            $result = $contract->money($ticks);
            $net = $result->minus($contract->fees(2 * $lots));
            $risk = $net->isNegative() ? $risk->minus($net) : $risk;
            $locked = $result->isPositive() ? $locked->plus($result) : $locked;
            $atStops = $atStops->plus(BigRational::of($stop)->multipliedBy($sign * $lots));
            $covered += $lots;
        }
        $fromHere = $mark === null
            ? Money::zero($contract->currency)
            : $contract->money(BigRational::of($mark)->multipliedBy($sign * $covered)->minus($atStops))->plus($contract->fees($covered));

        return new self($risk, $locked, abs($position->lots) - $covered, $fromHere);
    }
}
