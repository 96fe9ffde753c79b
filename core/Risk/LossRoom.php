<?php

declare(strict_types=1);

namespace Lotrik\Risk;

use Lotrik\Money\Money;

/**
 * What an account may still lose before a limit of the day acts: its loss, its drawdown, the profit to keep, whichever is nearest. A
 * day's gain makes it larger where the loss is the nearest. In the account's currency.
 */
final readonly class LossRoom
{
    /**
     * @param Money  $left  never below 0
     * @param Money  $of    what there is of it in all: what the limit allows, and with it what the day has won
     * @param string $limit which one it is, such as "the daily loss limit"
     */
    private function __construct(public Money $left, public Money $of, public string $limit) {}

    /** @param non-empty-list<DayUse> $uses of all limits of the day */
    public static function of(array $uses): self
    {
        $nearest = $uses[0];
        foreach ($uses as $use) {
            $nearest = $use->left()->compareTo($nearest->left()) < 0 ? $use : $nearest;
        }
        $left = $nearest->left();

        return new self(
            $left->isNegative() ? Money::zero($left->currency) : $left,
            $left->compareTo($nearest->of) > 0 ? $left : $nearest->of, $nearest->limit,
        );
    }
}
