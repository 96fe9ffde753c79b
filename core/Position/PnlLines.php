<?php

declare(strict_types=1);

namespace Lotrik\Position;

use Brick\Math\BigRational;
use Brick\Math\RoundingMode;
use Lotrik\Contract\Contract;

/**
 * The P/L at every rung in what a trader counts in: money, ticks a lot, or percent of the day-trade margin of the lots.
 * Each is a straight line, so that the page needs no rule to draw it.
 */
final readonly class PnlLines
{
    /** Decimals of a tick where an average lies between two, and of a percent. */
    private const PARTS = 4;

    /** Decimals that are shown of them. */
    private const SHOWN = 1;

    /** What a tick may be of the margin, in units of the line. */
    private const STEEPEST = 1_000_000_000_000;

    /**
     * In ticks a lot: how far the price has gone for the position.
     *
     * @return array{scale: int, base: int, slope: int, shown: int} units of 10^−scale; decimals that are shown
     */
    public static function ticks(Position $position): array
    {
        $sign = $position->lots <=> 0;
        $isWhole = $position->average->getDenominator()->isEqualTo(1);
        $scale = $isWhole ? 0 : self::PARTS;

        return [
            'scale' => $scale,
            'base' => self::floor($position->average->multipliedBy(-$sign * 10 ** $scale)),
            'slope' => $sign * 10 ** $scale,
            'shown' => $isWhole ? 0 : self::SHOWN,
        ];
    }

    /**
     * @return array{scale: int, base: int, slope: int, shown: int}|null as above; null where the contract has no such margin, or one so
     *                                                                   small that a tick is more percent of it than can be drawn
     */
    public static function percent(Position $position, Contract $contract): ?array
    {
        if ($contract->dayMargin->isZero() || $position->lots === 0) {
            return null;
        }
        // Finer than it is shown: the slope is rounded once, and a rung may be thousands of ticks from zero.
        $scale = 2 * self::PARTS;
        $tick = BigRational::of($contract->tickValue)->multipliedBy(100)->dividedBy($contract->dayMargin)->multipliedBy(10 ** $scale);
        $base = $position->average->multipliedBy($tick->toScale(0, RoundingMode::CEILING));
        if ($tick->isGreaterThan(self::STEEPEST) || $base->abs()->isGreaterThan(PHP_INT_MAX)) {
            return null;
        }
        $slope = self::floor($tick->multipliedBy($position->lots <=> 0));

        return [
            'scale' => $scale,
            'base' => self::floor($position->average->multipliedBy(-$slope)),
            'slope' => $slope,
            'shown' => self::SHOWN,
        ];
    }

    private static function floor(BigRational $number): int
    {
        return $number->toScale(0, RoundingMode::FLOOR)->toInt();
    }
}
