<?php

declare(strict_types=1);

namespace Lotrik\Money;

use Brick\Math\BigDecimal;
use Brick\Math\BigNumber;
use Brick\Math\BigRational;
use Brick\Math\RoundingMode;

/**
 * An exact fraction, in its lowest terms. It is kept in two whole numbers of the machine while they hold it, which is nearly
 * always, and in those of the package for numbers without end where they do not: sums over all positions are worked out anew
 * at each print.
 */
final readonly class Fraction
{
    /** Decimals kept when a number has no finite decimal form (a third of a tick): far below any minor unit. */
    private const REPEATING_SCALE = 8;

    /** Decimals up to which a number is written with the machine's own. */
    private const FEW = 9;

    /**
     * @param int              $below above zero
     * @param BigRational|null $large in place of the two where they cannot hold it
     */
    private function __construct(private int $above, private int $below, private ?BigRational $large = null) {}

    public static function zero(): self
    {
        return new self(0, 1);
    }

    public static function of(self|BigNumber|string|int $number): self
    {
        if ($number instanceof self) {
            return $number;
        }

        return (is_int($number) ? self::reduced($number, 1) : null) ?? self::large(BigRational::of($number));
    }

    /** @param int $below above zero */
    public static function ratio(int $above, int $below): self
    {
        return self::reduced($above, $below) ?? self::large(BigRational::nd($above, $below));
    }

    public function plus(self $other): self
    {
        if ($this->large === null && $other->large === null) {
            // A product or sum too large for the machine comes out as a float, which none of what follows takes back.
            $sum = $this->below === $other->below
                ? self::reduced($this->above + $other->above, $this->below)
                : self::reduced($this->above * $other->below + $other->above * $this->below, $this->below * $other->below);
            if ($sum !== null) {
                return $sum;
            }
        }

        return self::large($this->rational()->plus($other->rational()));
    }

    public function minus(self $other): self
    {
        return $this->plus($other->negated());
    }

    public function times(self $other): self
    {
        $product = $this->large === null && $other->large === null
            ? self::reduced($this->above * $other->above, $this->below * $other->below)
            : null;

        return $product ?? self::large($this->rational()->multipliedBy($other->rational()));
    }

    public function negated(): self
    {
        return $this->large === null ? new self(-$this->above, $this->below) : self::large($this->large->negated());
    }

    /** The whole number that it is; null where it is none, or a larger one than the machine holds. */
    public function whole(): ?int
    {
        return $this->large === null && $this->below === 1 ? $this->above : null;
    }

    /** -1, 0 or 1. */
    public function sign(): int
    {
        return $this->large?->getSign() ?? $this->above <=> 0;
    }

    public function rational(): BigRational
    {
        return $this->large ?? BigRational::nd($this->above, $this->below);
    }

    /** Such as "160", or "500/3". */
    public function text(): string
    {
        return $this->large === null ? $this->above.($this->below === 1 ? '' : "/$this->below") : (string) $this->large;
    }

    /** As a decimal with at least so many places; one that repeats is cut half up at {@see REPEATING_SCALE}. */
    public function decimal(int $least): string
    {
        return $this->fewDigits($least) ?? $this->manyDigits($least);
    }

    /** Null where the machine's numbers do not hold all that it takes. */
    private function fewDigits(int $least): ?string
    {
        if ($this->large !== null) {
            return null;
        }
        $rest = $this->below;
        for ($twos = 0; $rest % 2 === 0; $twos++) {
            $rest = intdiv($rest, 2);
        }
        for ($fives = 0; $rest % 5 === 0; $fives++) {
            $rest = intdiv($rest, 5);
        }
        $places = $rest === 1 ? max($twos, $fives) : self::REPEATING_SCALE;
        // Twice the product of the two below still fits.
        if ($this->below > 10 ** self::FEW || $places > self::FEW) {
            return null;
        }
        $whole = intdiv(abs($this->above), $this->below);
        // One half is added, so that what is left over falls to the nearer side.
        $after = intdiv(2 * (abs($this->above) % $this->below) * 10 ** $places + $this->below, 2 * $this->below);
        if ($after === 10 ** $places) {
            $whole++;
            $after = 0;
        }
        $digits = str_pad(rtrim(str_pad((string) $after, $places, '0', STR_PAD_LEFT), '0'), $least, '0');

        return ($this->above < 0 && ($whole !== 0 || $after !== 0) ? '-' : '').$whole.($digits === '' ? '' : ".$digits");
    }

    private function manyDigits(int $least): string
    {
        $amount = $this->rational();
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

    /** Null where one of them is no whole number of the machine. */
    private static function reduced(int|float $above, int|float $below): ?self
    {
        // The least whole number has no counterpart above zero.
        if (! is_int($above) || ! is_int($below) || $above === PHP_INT_MIN) {
            return null;
        }
        if ($below !== 1) {
            $common = $below;
            for ($rest = $above % $below; $rest !== 0; $rest = $next) {
                $next = $common % $rest;
                $common = $rest;
            }
            $common = abs($common);
            if ($common !== 1) {
                return new self(intdiv($above, $common), intdiv($below, $common));
            }
        }

        return new self($above, $below);
    }

    private static function large(BigRational $number): self
    {
        $above = (string) $number->getNumerator();
        $below = (string) $number->getDenominator();
        // 18 characters are held whatever they are.
        if (strlen($above) <= 18 && strlen($below) <= 18) {
            return self::reduced((int) $above, (int) $below) ?? throw new \LogicException("$above/$below is larger than it looked");
        }
        $number = $number->simplified();

        return strlen((string) $number->getNumerator()) <= 18 && strlen((string) $number->getDenominator()) <= 18
            ? self::large($number)
            : new self(0, 1, $number);
    }
}
