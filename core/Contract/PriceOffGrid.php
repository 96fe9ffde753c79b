<?php

declare(strict_types=1);

namespace Lotrik\Contract;

/** A price between two ticks. It is refused, never rounded; the message names the valid price on each side. */
final class PriceOffGrid extends \DomainException
{
    private function __construct(string $message, public readonly string $below, public readonly string $above)
    {
        parent::__construct($message);
    }

    public static function nearest(string $price, string $tick, string $below, string $above): self
    {
        return new self("$price is not on the tick grid of $tick; the nearest valid prices are $below and $above", $below, $above);
    }
}
