<?php

declare(strict_types=1);

namespace Lotrik\Rehearsal;

/** What came of a rehearsed entry, in numbers. */
final readonly class Outcome
{
    /**
     * @param FirstExit|null $first  null where no exit has filled
     * @param int            $open   lots
     * @param int            $closed lots
     * @param int            $ticks  made (or lost, below 0) by all closed lots together, before fees
     * @param int            $openTicks the same of the lots that are open, at the last print
     */
    public function __construct(
        public ?FirstExit $first,
        public int $open,
        public int $closed,
        public int $ticks,
        public int $openTicks = 0,
    ) {}
}
