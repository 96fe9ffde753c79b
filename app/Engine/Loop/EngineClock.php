<?php

declare(strict_types=1);

namespace App\Engine\Loop;

/**
 * The stamp on what happens: wall time, or, where the market was started at a given time, that time plus its steps.
 * It never runs backwards.
 */
final class EngineClock
{
    private int $last = 0;

    /** @param int|null $start ms since 1970 UTC at step 0; null follows the wall clock */
    public function __construct(public readonly ?int $start) {}

    /** @return int ms since 1970 UTC */
    public function at(int $step): int
    {
        $now = $this->start === null ? (int) (microtime(true) * 1000) : $this->start + 10 * $step;

        return $this->last = max($this->last, $now);
    }
}
