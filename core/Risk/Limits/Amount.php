<?php

declare(strict_types=1);

namespace Lotrik\Risk\Limits;

use Brick\Math\BigDecimal;
use Lotrik\Document\Node;
use Lotrik\Money\Currency;
use Lotrik\Money\Money;

/** Reads amounts and shares that somebody has typed. */
final class Amount
{
    /** Digits before the point. */
    private const DIGITS = 12;

    /** An exact amount above zero with no more places than its currency has. */
    public static function of(Node $node, string $field, Currency $currency): Money
    {
        $typed = $node->string($field, null, 40);
        $places = $currency->minorUnit;
        $fraction = $places === 0 ? '' : "(\\.\\d{1,$places})?";
        if (preg_match('/^\d{1,'.self::DIGITS."}$fraction$/D", $typed) !== 1 || BigDecimal::of($typed)->isZero()) {
            $most = $places === 0 ? 'no decimals' : "at most $places decimals";

            throw $node->fault(
                $field, "an amount of {$currency->code} above zero, with $most and at most ".self::DIGITS.' digits before them',
            );
        }

        return Money::of($typed, $currency);
    }

    public static function optional(Node $node, string $field, Currency $currency): ?Money
    {
        return $node->raw($field) === null ? null : self::of($node, $field, $currency);
    }

    /** Above 0 and at most 100, with at most two places. */
    public static function percent(Node $node, string $field): ?BigDecimal
    {
        if ($node->raw($field) === null) {
            return null;
        }
        $typed = $node->string($field, null, 10);
        if (
            preg_match('/^\d{1,3}(\.\d{1,2})?$/D', $typed) !== 1 || BigDecimal::of($typed)->isZero()
                || BigDecimal::of($typed)->isGreaterThan(100)
        ) {
            throw $node->fault($field, 'a percentage above 0 and at most 100, with at most two decimals, such as "0.5"');
        }

        return BigDecimal::of($typed);
    }
}
