<?php

declare(strict_types=1);

namespace App\Engine\Loop;

/**
 * The stamp on what happens: wall time, or, where the market was started at a given time, that time plus its steps.
 * It never runs backwards, over a restart neither: it begins at the last stamp that was kept.
 */
final class EngineClock
{
    /**
     * @param int|null             $start ms since 1970 UTC at step 0; null follows the wall clock
     * @param int                  $last  the last stamp that was kept, ms since 1970 UTC
     * @param (\Closure(): int)|null $wall  the wall clock, ms since 1970 UTC
     */
    public function __construct(public readonly ?int $start, private int $last = 0, private readonly ?\Closure $wall = null) {}

    /** @return int ms since 1970 UTC */
    public function at(int $step): int
    {
        $now = $this->start === null
            ? ($this->wall === null ? (int) (microtime(true) * 1000) : ($this->wall)())
            : $this->start + 10 * $step;

        return $this->last = max($this->last, $now);
    }
}
