<?php

declare(strict_types=1);

namespace Lotrik\Money;

use Brick\Math\BigDecimal;
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
    /** Decimals kept when an amount has no finite decimal form (a third of a tick): far below any minor unit. */
    private const REPEATING_SCALE = 8;

    private function __construct(public BigRational $amount, public Currency $currency) {}

    public static function of(BigNumber|string|int $amount, Currency $currency): self
    {
        return new self(BigRational::of($amount)->simplified(), $currency);
    }

    public static function zero(Currency $currency): self
    {
        return new self(BigRational::zero(), $currency);
    }

    public function plus(self $other): self
    {
        $more = $this->same($other);
        // Most sums begin at nothing, or add it.
        if ($more->isZero() || $this->amount->isZero()) {
            return $more->isZero() ? $this : $other;
        }

        return self::of($this->amount->plus($more), $this->currency);
    }

    public function minus(self $other): self
    {
        return self::of($this->amount->minus($this->same($other)), $this->currency);
    }

    public function times(BigNumber|int $factor): self
    {
        return self::of($this->amount->multipliedBy($factor), $this->currency);
    }

    public function negated(): self
    {
        return new self($this->amount->negated(), $this->currency);
    }

    public function isNegative(): bool
    {
        return $this->amount->isNegative();
    }

    public function isPositive(): bool
    {
        return $this->amount->isPositive();
    }

    /** The exact decimal, padded to the currency's minor unit: "160.00", "328.125". */
    public function exact(): string
    {
        return self::decimal($this->amount, $this->currency->minorUnit);
    }

    /** For the screen: rounded half up to the minor unit, always with its sign where `$signed`. */
    public function display(bool $signed = false): string
    {
        $text = (string) $this->amount->toScale($this->currency->minorUnit, RoundingMode::HALF_UP);

        return $signed && ! str_starts_with($text, '-') ? '+'.$text : $text;
    }

    /** A rational as a decimal with at least `$least` decimals; repeating ones are cut half up at 8. */
    public static function decimal(BigRational $amount, int $least): string
    {
        $amount = $amount->simplified();
        $rest = $amount->getDenominator();
        foreach ([2, 5] as $prime) {
            while ($rest->mod($prime)->isZero()) {
                $rest = $rest->quotient($prime);
            }
        }
        $decimal = $rest->isEqualTo(1)
            ? BigDecimal::of($amount->toBigDecimal())
            : $amount->toScale(self::REPEATING_SCALE, RoundingMode::HALF_UP);
        $decimal = $decimal->stripTrailingZeros();

        return (string) ($decimal->getScale() < $least ? $decimal->toScale($least) : $decimal);
    }

    private function same(self $other): BigRational
    {
        if (! $this->currency->is($other->currency)) {
            throw new \LogicException("{$this->currency->code} and {$other->currency->code} do not add up without a rate");
        }

        return $other->amount;
    }
}
