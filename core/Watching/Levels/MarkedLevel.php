<?php

declare(strict_types=1);

namespace Lotrik\Watching\Levels;

/** A price or a band of prices, in ticks, that a trader keeps an eye on since a moment (ms since 1970 UTC). */
final readonly class MarkedLevel
{
    public function __construct(public int $low, public int $high, public int $since)
    {
        if ($low < 1 || $high < $low) {
            throw new \DomainException("a level from tick $low to $high; it begins at 1 or more and does not end before it begins");
        }
    }

    public function holds(int $tick): bool
    {
        return $tick >= $this->low && $tick <= $this->high;
    }

    /** Ticks from a price to the nearer edge, up is positive; 0 inside. */
    public function distance(int $tick): int
    {
        return $tick < $this->low ? $this->low - $tick : min(0, $this->high - $tick);
    }
}
