<?php

declare(strict_types=1);

namespace Lotrik\Watching\Levels;

use Lotrik\Watching\Depth\DepthColumn;
use Lotrik\Watching\Depth\DepthHistory;
use Lotrik\Watching\Depth\DepthStep;

/** Lots that rest inside a marked level now, and how that has changed. */
final readonly class LevelFigures
{
    /**
     * @param int  $change10 lots more (or fewer) than 10 s ago, `$change60` than 60 s ago; as far back as there are columns
     * @param bool $halved   half or less is left of the most that rested inside at any time in the last minute
     */
    private function __construct(public int $resting, public int $change10, public int $change60, public bool $halved) {}

    public static function of(MarkedLevel $level, DepthHistory $depth): self
    {
        $now = self::resting($level, $depth->last());
        $most = 0;
        $from = ($depth->last()->at ?? 0) - 60_000;
        foreach ($depth->between(DepthStep::TwoSeconds, $from, PHP_INT_MAX) as $column) {
            $most = max($most, self::resting($level, $column));
        }

        return new self(
            $now,
            $now - self::resting($level, $depth->before(10_000)),
            $now - self::resting($level, $depth->before(60_000)),
            2 * $now <= $most && $most > 0,
        );
    }

    private static function resting(MarkedLevel $level, ?DepthColumn $column): int
    {
        $lots = 0;
        foreach ($column?->levels() ?? [] as $tick => $there) {
            $lots += $level->holds($tick) ? $there : 0;
        }

        return $lots;
    }
}
