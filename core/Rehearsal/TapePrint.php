<?php

declare(strict_types=1);

namespace Lotrik\Rehearsal;

use Lotrik\Order\Side;

/** One print of a tape. Prices in ticks, the moment in µs since 1970 UTC. */
final readonly class TapePrint
{
    public function __construct(
        public int $at,
        public int $tick,
        public int $lots,
        public ?Side $aggressor = null,
        public ?int $bid = null,
        public ?int $ask = null,
    ) {}

    /**
     * A print with the quote that it gives away where none was written down: what is bought prints at the ask, what is
     * sold at the bid, and the spread is taken for one tick. Common practice, no source.
     */
    public static function atTheTouch(int $at, int $tick, int $lots, Side $aggressor): self
    {
        $bid = $aggressor === Side::Sell ? $tick : $tick - 1;

        return new self($at, $tick, $lots, $aggressor, $bid, $bid + 1);
    }
}
