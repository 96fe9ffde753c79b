<?php

declare(strict_types=1);

namespace Lotrik\Contract;

/** A price between two ticks. It is refused, never rounded; the message names the valid price on each side. */
final class PriceOffGrid extends InvalidPrice
{
    public static function nearest(string $price, string $tick, string $below, string $above): self
    {
        return new self(
            "$price is not on the tick grid of $tick; the nearest valid prices are $below and $above",
            "a price on the tick grid of $tick, the nearest being $below and $above",
        );
    }
}
