<?php

declare(strict_types=1);

namespace Lotrik\Risk;

use Lotrik\Contract\Contract;
use Lotrik\Money\Fraction;
use Lotrik\Money\Money;
use Lotrik\Position\Position;

/**
 * What a position loses or locks in at its stops: for each lot the loss at its stop plus the fees of its round trip, measured
 * from the position's average. What stops on the profit side lock in, after the fees of both sides, is kept apart and not netted against it, and lots without a
 * stop are counted, since their risk has no limit. No price of the market is in it: it changes with fills and stops alone.
 */
final readonly class AtStops
{
    /**
     * @param int   $covered lots that have a stop, negative for a short
     * @param Money $still   of what is given up from here the part that no price moves: fees to get out, less the value at the stops
     */
    private function __construct(
        private Contract $contract,
        public Money $risk,
        public Money $lockedIn,
        public int $unprotected,
        private int $covered,
        private Money $still,
    ) {}

    /** @param list<ProtectedLots> $protected */
    public static function of(Position $position, Contract $contract, array $protected): self
    {
        $sign = $position->lots <=> 0;
        $risk = $locked = Money::zero($contract->currency);
        $covered = $sum = 0;
        $average = Fraction::of($position->average);
        foreach ($protected as $part) {
            [$lots, $stop] = [$part->lots, $part->stop];
            $result = $contract->money(Fraction::of($stop)->minus($average)->times(Fraction::of($sign * $lots)));
            $net = $result->minus($contract->fees(2 * $lots));
            $risk = $net->isNegative() ? $risk->minus($net) : $risk;
            $locked = $net->isPositive() ? $locked->plus($net) : $locked;
            $sum += $sign * $lots * $stop;
            $covered += $lots;
        }

        $still = $contract->fees($covered)->minus($contract->money($sum));

        return new self($contract, $risk, $locked, abs($position->lots) - $covered, $sign * $covered, $still);
    }

    /**
     * What is given up if every stop is hit from here: open P/L minus P/L at the stops, plus the fees to get out.
     *
     * @param int|null $mark tick at which the trader could get out now; null before any price
     */
    public function from(?int $mark): OpenRisk
    {
        $given = $mark === null
            ? Money::zero($this->contract->currency)
            : $this->contract->money($this->covered * $mark)->plus($this->still);

        return new OpenRisk($this->risk, $this->lockedIn, $this->unprotected, $given);
    }
}
