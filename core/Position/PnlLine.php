<?php

declare(strict_types=1);

namespace Lotrik\Position;

use Brick\Math\BigRational;
use Brick\Math\RoundingMode;
use Lotrik\Contract\Contract;

/**
 * The P/L at every rung as a straight line: `pnl = base + slope × ticks`, in money units of 10^−scale.
 *
 * The page draws it with nothing but that formula. The base is rounded down (against the trader) where an average
 * is no finite decimal; the scale keeps that far below the minor unit.
 */
final readonly class PnlLine
{
    private function __construct(public int $scale, public int $base, public int $slope) {}

    public static function of(Position $position, Contract $contract): self
    {
        $scale = max(
            $contract->tickValue->getScale(),
            $contract->currency->minorUnit,
        ) + ($position->average->getDenominator()->isEqualTo(1) ? 0 : 2);
        $unit = BigRational::of(10)->power($scale)->multipliedBy($contract->tickValue);

        return new self(
            $scale,
            $position->average->multipliedBy(-$position->lots)->multipliedBy($unit)->toScale(0, RoundingMode::FLOOR)->toInt(),
            $unit->multipliedBy($position->lots)->toScale(0, RoundingMode::FLOOR)->toInt(),
        );
    }

    public function at(int $tick): int
    {
        return $this->base + $this->slope * $tick;
    }

    /** @return array{scale: int, base: int, slope: int} */
    public function toArray(): array
    {
        return ['scale' => $this->scale, 'base' => $this->base, 'slope' => $this->slope];
    }
}
