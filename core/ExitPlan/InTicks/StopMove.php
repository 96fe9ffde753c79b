<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan\InTicks;

/** A ratchet that is due: the stop of which slot goes from where to where (ticks), why, and at what best profit. */
final readonly class StopMove
{
    public function __construct(
        public int $group,
        public int $portion,
        public int $from,
        public int $to,
        public string $because,
        public int $best,
    ) {}
}
