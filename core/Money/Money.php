<?php

declare(strict_types=1);

namespace Lotrik\Money;

use Brick\Math\BigNumber;
use Brick\Math\BigRational;
use Brick\Math\RoundingMode;

/**
 * An exact amount in one currency. It is never rounded inside; only {@see display()} rounds, to the minor unit.
 *
 * Amounts are rationals because an average price of three fills may be a third of a tick; whatever comes from
 * whole ticks is a finite decimal and is written out in full.
 */
final readonly class Money
{
    private function __construct(private Fraction $amount, public Currency $currency) {}

    public static function of(BigNumber|Fraction|string|int $amount, Currency $currency): self
    {
        return new self(Fraction::of($amount), $currency);
    }

    public static function zero(Currency $currency): self
    {
        return new self(Fraction::zero(), $currency);
    }

    public function plus(self $other): self
    {
        return new self($this->amount->plus($this->same($other)), $this->currency);
    }

    public function minus(self $other): self
    {
        return new self($this->amount->minus($this->same($other)), $this->currency);
    }

    public function times(BigNumber|Fraction|int $factor): self
    {
        return new self($this->amount->times(Fraction::of($factor)), $this->currency);
    }

    /** The same number of another currency's units for each of this one's. */
    public function at(Fraction $rate, Currency $currency): self
    {
        return new self($this->amount->times($rate), $currency);
    }

    /** How often another amount goes into this one. */
    public function dividedBy(self $other): BigRational
    {
        return $this->amount->rational()->dividedBy($this->same($other)->rational());
    }

    /** How often another amount goes into this one, whole; 0 where not once, and never more than `$most`. The other one is above zero. */
    public function wholeTimes(self $other, int $most): int
    {
        $times = $this->dividedBy($other);

        return match (true) {
            $times->isNegative() => 0,
            $times->isGreaterThan($most) => $most,
            default => $times->toScale(0, RoundingMode::FLOOR)->toInt(),
        };
    }

    public function negated(): self
    {
        return new self($this->amount->negated(), $this->currency);
    }

    /** -1, 0 or 1. */
    public function compareTo(self $other): int
    {
        return $this->amount->minus($this->same($other))->sign();
    }

    public function isNegative(): bool
    {
        return $this->amount->sign() < 0;
    }

    public function isPositive(): bool
    {
        return $this->amount->sign() > 0;
    }

    public function amount(): BigRational
    {
        return $this->amount->rational();
    }

    /** Such as "160", or "500/3": exact, for {@see of()} to read again. */
    public function fraction(): string
    {
        return $this->amount->text();
    }

    /** The exact decimal, padded to the currency's minor unit: "160.00", "328.125". */
    public function exact(): string
    {
        return $this->amount->decimal($this->currency->minorUnit);
    }

    /** For the screen: rounded half up to the minor unit, always with its sign where `$signed`. */
    public function display(bool $signed = false): string
    {
        $text = (string) $this->amount->rational()->toScale($this->currency->minorUnit, RoundingMode::HALF_UP);

        return $signed && ! str_starts_with($text, '-') ? '+'.$text : $text;
    }

    private function same(self $other): Fraction
    {
        if (! $this->currency->is($other->currency)) {
            throw new \LogicException("{$this->currency->code} and {$other->currency->code} do not add up without a rate");
        }

        return $other->amount;
    }
}
