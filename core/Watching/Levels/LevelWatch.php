<?php

declare(strict_types=1);

namespace Lotrik\Watching\Levels;

use Lotrik\Order\Side;
use Lotrik\Watching\Depth\DepthHistory;
use Lotrik\Watching\Depth\DepthStep;
use Lotrik\Watching\RecentPrints;

/** Follows what trades at a marked level: lots inside by aggressor, and whether the market turned there or went through. */
final class LevelWatch
{
    public int $bought = 0;

    public int $sold = 0;

    public LevelState $state = LevelState::Untouched;

    /** The side that the market came from: 1 when the level was above it, -1 below; null while it has been inside only. */
    private ?int $from = null;

    public function __construct(public readonly MarkedLevel $level) {}

    public function trade(int $tick, int $lots, Side $aggressor): void
    {
        $this->traded($tick, $aggressor === Side::Buy ? $lots : 0, $aggressor === Side::Buy ? 0 : $lots);
    }

    /** What had traded before anybody looked, as far back as the columns go. */
    public function catchUp(DepthHistory $depth, RecentPrints $prints): void
    {
        $step = DepthStep::Quarter;
        while ($step->longer() !== null && ($depth->oldest($step)->at ?? PHP_INT_MAX) > $this->level->since) {
            $step = $step->longer();
        }
        // What the last long column does not hold yet, the shorter ones do.
        $after = $this->level->since;
        for (; $step !== null; $step = $step->shorter()) {
            foreach ($depth->between($step, $after, PHP_INT_MAX) as $column) {
                $this->all($column->trades());
                $after = $column->at;
            }
        }
        // What no column holds yet the prints tell, each with its own time: those before the level was marked are not its own.
        foreach (array_filter($prints->all(), static fn(array $print): bool => $print[0] > $after) as [, $tick, $lots, $side]) {
            $this->trade($tick, $lots, $side > 0 ? Side::Buy : Side::Sell);
        }
    }

    /** @param array<int, array{int, int}> $trades tick → lots bought, lots sold */
    private function all(array $trades): void
    {
        foreach ($trades as $tick => [$bought, $sold]) {
            $this->traded($tick, $bought, $sold);
        }
    }

    private function traded(int $tick, int $bought, int $sold): void
    {
        $side = $this->level->distance($tick) <=> 0;
        if ($side === 0) {
            $this->bought += $bought;
            $this->sold += $sold;
            $this->state = $this->state === LevelState::Broken ? $this->state : LevelState::Touched;
        } elseif ($this->from === null) {
            $this->from = $side;
        } elseif ($side !== $this->from) {
            $this->state = LevelState::Broken;
        } elseif ($this->state === LevelState::Touched) {
            $this->state = LevelState::Held;
        }
    }
}
