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
}
