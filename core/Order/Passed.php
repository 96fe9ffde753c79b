<?php

declare(strict_types=1);

namespace Lotrik\Order;

/**
 * Whether a stop's trigger already lies behind the market.
 *
 * A buy stop is passed when the last trade is at or above its trigger, a sell stop at or below; judged on the last
 * trade clamped into the present bid and ask. Before the first trade nothing is passed.
 */
final class Passed
{
    /** All prices in ticks; a missing bid or ask clamps nothing. */
    public static function is(Side $side, int $trigger, ?int $last, ?int $bid, ?int $ask): bool
    {
        $mark = self::clamped($last, $bid, $ask);
        if ($mark === null) {
            return false;
        }

        return $side === Side::Buy ? $mark >= $trigger : $mark <= $trigger;
    }

    /** The last trade, moved into the present quote where it lies outside. */
    public static function clamped(?int $last, ?int $bid, ?int $ask): ?int
    {
        if ($last === null) {
            return null;
        }
        if ($bid !== null && $last < $bid) {
            return $bid;
        }

        return $ask !== null && $last > $ask ? $ask : $last;
    }
}
