<?php

declare(strict_types=1);

namespace Lotrik\Risk\Limits;

use Brick\Math\BigDecimal;
use Lotrik\Money\Money;

/** Of two limits the one that lets less through; null limits nothing. */
final class Tighter
{
    public static function least(?int $one, ?int $other): ?int
    {
        return $one === null || $other === null ? $one ?? $other : min($one, $other);
    }

    public static function most(?int $one, ?int $other): ?int
    {
        return $one === null || $other === null ? $one ?? $other : max($one, $other);
    }

    public static function leastMoney(?Money $one, ?Money $other): ?Money
    {
        if ($one === null || $other === null) {
            return $one ?? $other;
        }

        return $other->minus($one)->isNegative() ? $other : $one;
    }

    public static function leastDecimal(?BigDecimal $one, ?BigDecimal $other): ?BigDecimal
    {
        if ($one === null || $other === null) {
            return $one ?? $other;
        }

        return $other->isLessThan($one) ? $other : $one;
    }

    public static function mostDecimal(?BigDecimal $one, ?BigDecimal $other): ?BigDecimal
    {
        if ($one === null || $other === null) {
            return $one ?? $other;
        }

        return $other->isGreaterThan($one) ? $other : $one;
    }
}
