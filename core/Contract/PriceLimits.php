<?php

declare(strict_types=1);

namespace Lotrik\Contract;

/**
 * The prices, in ticks, that nothing trades beyond until the next settlement (common practice, no source). Orders may
 * rest beyond them, so that exits stay where their plan says; what would have to trade there waits.
 */
final readonly class PriceLimits
{
    private function __construct(public int $low, public int $high) {}

    /** @return self|null null where there is no settlement yet to measure from, or the contract has no limit */
    public static function around(?int $settlement, ?int $ticks): ?self
    {
        return $settlement === null || $ticks === null ? null : new self(max(1, $settlement - $ticks), $settlement + $ticks);
    }

    public function allow(int $tick): bool
    {
        return $tick >= $this->low && $tick <= $this->high;
    }

    public function nearest(int $tick): int
    {
        return max($this->low, min($this->high, $tick));
    }
}
