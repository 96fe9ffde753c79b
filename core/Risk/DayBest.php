<?php

declare(strict_types=1);

namespace Lotrik\Risk;

use Brick\Math\BigRational;
use Lotrik\Money\Currency;
use Lotrik\Money\Money;

/**
 * The best that a trading day has stood at: with what was open, and of what had closed. It begins at nothing won. Prints are
 * not journaled, so it is kept beside the markets' checkpoint.
 *
 * @phpstan-type PackedBest array{int, string, string}
 */
final readonly class DayBest
{
    /** @param int $day when the day began, ms since 1970 UTC */
    private function __construct(public int $day, public Money $open, public Money $closed) {}

    public static function at(int $day, Currency $base): self
    {
        return new self($day, Money::zero($base), Money::zero($base));
    }

    public function saw(Money $open, ?Money $closed): self
    {
        $higher = $open->isPositive() && $open->compareTo($this->open) > 0;
        $more = $closed?->compareTo($this->closed) > 0;

        return $higher || $more ? new self($this->day, $higher ? $open : $this->open, $more ? $closed : $this->closed) : $this;
    }

    /** What the day stands at is reckoned anew, at other rates: what has been given back since the best stays what it was. */
    public function moved(Money $open, Money $closed): self
    {
        return new self($this->day, $this->open->plus($open), $this->closed->plus($closed));
    }

    /** @return PackedBest */
    public function pack(): array
    {
        return [$this->day, $this->open->fraction(), $this->closed->fraction()];
    }

    /** @param PackedBest $packed */
    public static function unpack(array $packed, Currency $base): self
    {
        return new self($packed[0], Money::of(BigRational::of($packed[1]), $base), Money::of(BigRational::of($packed[2]), $base));
    }
}
