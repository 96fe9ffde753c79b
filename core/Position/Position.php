<?php

declare(strict_types=1);

namespace Lotrik\Position;

use Brick\Math\BigRational;
use Brick\Math\RoundingMode;
use Lotrik\Money\Fraction;
use Lotrik\Order\Side;

/**
 * The net position of one account in one contract at average cost. Prices in ticks, results in ticks × lots.
 *
 * The average is an exact fraction, so that what is realised and what is open always add up to the fills.
 */
final class Position
{
    public int $lots = 0;

    /** How many fills it has had: whoever keeps what was worked out from it knows by this when it is old. */
    public int $fills = 0;

    /** Average price in ticks; zero while flat. */
    public BigRational $average;

    /** Average × lots. */
    private Fraction $cost;

    /** Gross result of what has closed, in ticks × lots. */
    public BigRational $realised;

    public function __construct()
    {
        $this->average = BigRational::zero();
        $this->realised = BigRational::zero();
        $this->cost = Fraction::zero();
    }

    public function fill(Side $side, int $lots, int $tick): void
    {
        $this->fills++;
        $closing = $this->closedBy($side, $lots);
        if ($closing > 0) {
            $gain = BigRational::of($tick)->minus($this->average)->multipliedBy($this->lots <=> 0)->multipliedBy($closing);
            $this->realised = $this->realised->plus($gain)->simplified();
            $this->lots += $side->sign() * $closing;
        }
        $opening = $lots - $closing;
        if ($opening > 0) {
            $before = abs($this->lots);
            $this->average = $this->average->multipliedBy($before)->plus($tick * $opening)->dividedBy($before + $opening)->simplified();
            $this->lots += $side->sign() * $opening;
        }
        if ($this->lots === 0) {
            $this->average = BigRational::zero();
        }
        $this->cost = Fraction::of($this->average)->times(Fraction::of($this->lots));
    }

    /** How many lots of an order on this side would close, the rest would open. */
    public function closedBy(Side $side, int $lots): int
    {
        return $this->lots * $side->sign() < 0 ? min($lots, abs($this->lots)) : 0;
    }

    /** The average as a whole tick, rounded to the profit side: what a plan that is put on the position is measured from. */
    public function anchor(): int
    {
        return $this->average->toScale(0, $this->lots > 0 ? RoundingMode::CEILING : RoundingMode::FLOOR)->toInt();
    }

    /** What closing everything at a price would make or lose, in ticks × lots. */
    public function openTicks(int $tick): Fraction
    {
        return Fraction::of($tick * $this->lots)->minus($this->cost);
    }
}
