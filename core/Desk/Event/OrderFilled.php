<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

/** Some or all of an order filled. Price in ticks; slippage is positive when it goes against the trader. */
final readonly class OrderFilled implements Event
{
    public const TYPE = 'order-filled';

    public function __construct(
        public int $order,
        public int $fill,
        public int $quantity,
        public int $price,
        public int $print,
        public int $slippageTicks,
    ) {}
}
