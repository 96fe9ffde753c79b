<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan\Open;

use Lotrik\Order\Side;

/**
 * The price that a group of fills is measured from: their fill-weighted average, rounded to the profit side where
 * it is no whole tick (up for a long, down for a short). So the loss at the stop is never more than the plan says,
 * and lock 0 never loses before fees and slippage.
 */
final class Anchor
{
    private int $lots = 0;

    private int $cost = 0;

    /** Set once a ratchet has moved a stop of the group: from then on it takes no more fills. */
    public bool $isFixed = false;

    /** The best price (ticks) since the group's first fill; null before anything has been seen. */
    public ?int $best = null;

    public function __construct(private readonly Side $side) {}

    public function add(int $lots, int $tick): void
    {
        $this->lots += $lots;
        $this->cost += $lots * $tick;
    }

    /** Stands at a given tick from now on, whatever the fills were: the average of a position. */
    public function place(int $tick): void
    {
        $this->lots = 1;
        $this->cost = $tick;
    }

    /** In ticks. */
    public function tick(): int
    {
        $down = intdiv($this->cost, $this->lots) - ($this->cost % $this->lots < 0 ? 1 : 0);
        $whole = $down * $this->lots === $this->cost;

        return $this->side === Side::Buy && ! $whole ? $down + 1 : $down;
    }

    /** @return bool whether it is better than all before */
    public function observe(int $tick): bool
    {
        if ($this->best === null || $this->side->sign() * ($tick - $this->best) > 0) {
            $this->best = $tick;

            return true;
        }

        return false;
    }

    /** Best profit so far in ticks, measured from the anchor as it stands now; never negative. */
    public function bestProfit(): int
    {
        return $this->best === null ? 0 : max(0, $this->side->sign() * ($this->best - $this->tick()));
    }
}
