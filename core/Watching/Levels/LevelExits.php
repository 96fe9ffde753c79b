<?php

declare(strict_types=1);

namespace Lotrik\Watching\Levels;

use Lotrik\Order\Role;
use Lotrik\Order\Side;

/** Where exits go that are set from a marked level: a stop behind it and a target before it, so many ticks off. */
final readonly class LevelExits
{
    /** @param int $off ticks between the level and the exit */
    public function __construct(private MarkedLevel $level, private int $off)
    {
        if ($off < 0) {
            throw new \DomainException("exits $off ticks off a level; 0 or more");
        }
    }

    /** In ticks: below the level for a long, above it for a short, be it a stop or a target. */
    public function of(Side $position): int
    {
        return $position === Side::Buy ? $this->level->low - $this->off : $this->level->high + $this->off;
    }

    /**
     * For the next order at the market: with the level below it, a stop is that of a buy and a target that of a sell.
     *
     * @return array{Side, int} the order's side, and how many ticks from its price the exit is
     */
    public function ofNextOrder(Role $exit, int $bid, int $ask): array
    {
        $below = $this->level->high < $ask;
        $side = $below === ($exit === Role::Stop) ? Side::Buy : Side::Sell;

        return [$side, abs(($side === Side::Buy ? $ask : $bid) - $this->of($side))];
    }
}
