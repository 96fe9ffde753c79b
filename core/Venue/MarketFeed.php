<?php

declare(strict_types=1);

namespace Lotrik\Venue;

use Lotrik\Order\Side;

/** Where a venue's public market data goes: each print and each change of a level, in order. */
interface MarketFeed
{
    public function trade(int $tick, int $lots, Side $aggressor): void;

    /** What rests at a price now; 0 lots when the level is gone. */
    public function level(Side $side, int $tick, int $lots, int $orders): void;
}
