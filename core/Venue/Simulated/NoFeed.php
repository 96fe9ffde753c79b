<?php

declare(strict_types=1);

namespace Lotrik\Venue\Simulated;

use Lotrik\Order\Side;
use Lotrik\Venue\MarketFeed;

/** For those who only want the reports: tests and benchmarks of the matching alone. */
final class NoFeed implements MarketFeed
{
    public function trade(int $tick, int $lots, Side $aggressor): void {}

    public function level(Side $side, int $tick, int $lots, int $orders): void {}
}
