<?php

declare(strict_types=1);

namespace Lotrik\Watching\Depth;

/**
 * How far from the market the depth history sees: as far as a ladder shows with its coarsest rungs. What rests farther away is
 * in no picture, so that one order at a price of its own cannot make a column of millions of prices.
 */
final class DepthWindow
{
    /** Ticks on each side of the market (this product's own rule). */
    public const TICKS = 500;

    /**
     * @param array<int, int> $levels tick → lots
     * @param int|null        $market tick; null where there is none, and then nothing rests either
     *
     * @return array<int, int> those within sight
     */
    public static function around(array $levels, ?int $market): array
    {
        return $market === null ? [] : array_filter(
            $levels,
            static fn(int $tick): bool => $tick >= $market - self::TICKS && $tick <= $market + self::TICKS,
            ARRAY_FILTER_USE_KEY,
        );
    }
}
