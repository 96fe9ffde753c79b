<?php

declare(strict_types=1);

namespace Tests\Reference;

use Brick\Math\BigRational;
use Brick\Math\RoundingMode;
use Lotrik\Money\Fraction;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Fractions in two numbers of the machine against the package `brick/math`, above all where the machine's numbers end. */
final class FractionOracleTest extends TestCase
{
    private const ENDS = [
        PHP_INT_MIN, PHP_INT_MIN + 1, PHP_INT_MAX, PHP_INT_MAX - 1, 3_037_000_499, 3_037_000_500, -3_037_000_500, 4_294_967_296,
        999_999_999_999_999_999, 1_000_000_000_000_000_000, -1_000_000_000_000_000_000, 0, 1, -1,
    ];

    public function testSumsProductsAndSigns(): void
    {
        $pairs = [];
        foreach (self::numbers() as $one) {
            foreach (self::numbers() as $other) {
                $pairs[] = [$one, $other];
            }
        }
        foreach ($pairs as [$one, $other]) {
            [$a, $b] = [Fraction::of($one), Fraction::of($other)];
            $of = "$one and $other";
            self::assertSame((string) $one->plus($other)->simplified(), self::text($a->plus($b)), "sum of $of");
            self::assertSame((string) $one->minus($other)->simplified(), self::text($a->minus($b)), "difference of $of");
            self::assertSame((string) $one->multipliedBy($other)->simplified(), self::text($a->times($b)), "product of $of");
            self::assertSame($one->compareTo($other), $a->minus($b)->sign(), "order of $of");
            // What a sum too large for the machine has come to is as small again once the rest has been taken off.
            self::assertSame((string) $one->simplified(), self::text($a->plus($b)->minus($b)), "there and back of $of");
        }
    }

    public function testDecimalsAreWrittenInFullAndThoseThatRepeatCutAtEight(): void
    {
        foreach (self::numbers() as $number) {
            foreach ([0, 2, 3] as $least) {
                self::assertSame(self::decimal($number, $least), Fraction::of($number)->decimal($least), "$number to $least");
            }
        }
    }

    public function testWholeNumbersAreTold(): void
    {
        self::assertSame([7, -3, null, null], [
            Fraction::ratio(14, 2)->whole(), Fraction::of(-3)->whole(), Fraction::ratio(1, 3)->whole(),
            Fraction::of(PHP_INT_MAX)->plus(Fraction::of(1))->whole(),
        ]);
        self::assertSame(PHP_INT_MAX, Fraction::of(PHP_INT_MAX)->whole());
        self::assertSame('9223372036854775808', self::text(Fraction::of(PHP_INT_MIN)->negated()), 'the least has no counterpart above zero');
    }

    /** @return list<BigRational> prices, sums and averages as they come, and what lies at the ends */
    private static function numbers(): array
    {
        $dice = new Randomizer(new Mt19937(11));
        $numbers = [];
        foreach (self::ENDS as $end) {
            $numbers[] = BigRational::of($end);
            $numbers[] = BigRational::nd($end, 3);
            $numbers[] = BigRational::nd(7, max(2, $end));
            $numbers[] = BigRational::nd($end, 1_000_000_007);
        }
        foreach ([1, 2, 3, 7, 8, 10, 32, 125, 128, 999, 25_000, 1_000_000_000, 1_024, 1_953_125, 1_953_125_000, 999_999_999, 1_000_000_001] as $below) {
            for ($i = 0; $i < 4; $i++) {
                $numbers[] = BigRational::nd($dice->getInt(-2_000_000, 2_000_000), $below);
            }
            // Rounded half up, it is the next whole number.
            $numbers[] = BigRational::nd(3 * $below - 1, $below);
        }
        // Rounded to nothing, they have no sign.
        $numbers[] = BigRational::nd(-1, 3_000_000_000);
        $numbers[] = BigRational::nd(-1, 999_999_999);

        return $numbers;
    }

    private static function text(Fraction $of): string
    {
        self::assertSame((string) $of->rational(), $of->text());

        return $of->text();
    }

    private static function decimal(BigRational $number, int $least): string
    {
        $below = $number->simplified()->getDenominator();
        foreach ([2, 5] as $prime) {
            while ($below->mod($prime)->isZero()) {
                $below = $below->quotient($prime);
            }
        }
        $decimal = ($below->isEqualTo(1) ? $number->toBigDecimal() : $number->toScale(8, RoundingMode::HALF_UP))->stripTrailingZeros();

        return (string) ($decimal->getScale() < $least ? $decimal->toScale($least) : $decimal);
    }
}
