<?php

declare(strict_types=1);

namespace Lotrik\Watching\Depth;

/** Lots that rest within so many ticks of the best price on each side, and how they lean. */
final readonly class DepthSums
{
    private function __construct(public int $within, public int $bids, public int $asks) {}

    /**
     * @param array<int, int> $bids   tick → lots
     * @param array<int, int> $asks   tick → lots
     * @param int             $within ticks counted from the best price of a side, which is the first of them
     */
    public static function of(array $bids, array $asks, int $within): self
    {
        return new self(
            $within,
            self::sum($bids, $bids === [] ? 0 : max(array_keys($bids)), $within),
            self::sum($asks, $asks === [] ? 0 : min(array_keys($asks)), $within),
        );
    }

    /** @param array<int, int> $levels */
    private static function sum(array $levels, int $best, int $within): int
    {
        $lots = 0;
        foreach ($levels as $tick => $there) {
            $lots += abs($tick - $best) < $within ? $there : 0;
        }

        return $lots;
    }

    /** (bids − asks) in whole percent of both, towards 0: +100 when only bids rest, −100 when only asks do. */
    public function imbalance(): int
    {
        return $this->bids + $this->asks === 0 ? 0 : intdiv(100 * ($this->bids - $this->asks), $this->bids + $this->asks);
    }
}
