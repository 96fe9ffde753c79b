<?php

declare(strict_types=1);

namespace Lotrik\Watching\Bars;

/**
 * The average true range after J. Welles Wilder (New Concepts in Technical Trading Systems, 1978; the formulas are
 * from memory): a bar's true range is the widest of its own range and the ways from the close before it to its high
 * and low; the average begins as the mean of the first n true ranges and then moves by a n-th of the difference.
 */
final class AverageTrueRange
{
    /** Results are in millionths of a tick, so that the average needs no floats. */
    public const SCALE = 1_000_000;

    /**
     * @param list<Bar> $bars oldest first
     *
     * @return int|null millionths of a tick; null where there are not yet `$length` true ranges, which takes one bar more
     */
    public static function of(array $bars, int $length): ?int
    {
        if (count($bars) <= $length) {
            return null;
        }
        $sum = 0;
        $average = 0;
        for ($i = 1; $i < count($bars); $i++) {
            $range = self::SCALE * self::trueRange($bars[$i], $bars[$i - 1]->close);
            if ($i <= $length) {
                $sum += $range;
                $average = intdiv($sum, $length);
            } else {
                $average = intdiv($average * ($length - 1) + $range + intdiv($length, 2), $length);
            }
        }

        return $average;
    }

    private static function trueRange(Bar $bar, int $closeBefore): int
    {
        return max($bar->range(), abs($bar->high - $closeBefore), abs($bar->low - $closeBefore));
    }
}
