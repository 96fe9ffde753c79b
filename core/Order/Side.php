<?php

declare(strict_types=1);

namespace Lotrik\Order;

enum Side: string
{
    case Buy = 'buy';
    case Sell = 'sell';

    /** +1 for buy, −1 for sell: the sign of the position that a fill on this side makes. */
    public function sign(): int
    {
        return $this === self::Buy ? 1 : -1;
    }

    public function opposite(): self
    {
        return $this === self::Buy ? self::Sell : self::Buy;
    }

    /** The side that opens a position of this sign. */
    public static function ofPosition(int $lots): self
    {
        return $lots < 0 ? self::Sell : self::Buy;
    }

    public function word(): string
    {
        return $this === self::Buy ? 'Buy' : 'Sell';
    }
}
