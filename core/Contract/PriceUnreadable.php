<?php

declare(strict_types=1);

namespace Lotrik\Contract;

/** A text that is no decimal, or one beyond all prices that can be counted in ticks. */
final class PriceUnreadable extends InvalidPrice
{
    public static function notADecimal(string $price, string $such): self
    {
        return new self("\"$price\" is no price; a decimal such as \"$such\" is", "a decimal such as $such");
    }

    public static function outOfRange(string $price, string $least, string $most): self
    {
        return new self("$price is out of range; prices go from $least to $most", "a price from $least to $most");
    }
}
