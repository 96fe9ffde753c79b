<?php

declare(strict_types=1);

namespace Lotrik\Risk;

use Lotrik\Contract\Contract;
use Lotrik\Money\MixedSum;
use Lotrik\Money\Money;
use Lotrik\Money\RateTable;

/**
 * What a day stands at for its limits: realised − fees + open.
 *
 * Open lots are marked at the last trade clamped into the quote, so that a missing bid for a moment liquidates nothing.
 */
final class LossLimit
{
    /**
     * By account: what no mark moves, and all that it was made from.
     *
     * @var array<int, array{int, int, RateTable, array<string, Contract>, Money}> fills so far, day, rates, contracts with something open
     */
    private array $still = [];

    /**
     * What the day stands at, in the base currency.
     *
     * @param int                           $day       when it began, ms since 1970 UTC
     * @param array<string, MarkedPosition> $positions of the account by contract, flat ones too
     * @param callable(): DayResult         $result    of the day so far
     * @param Money                         $carried   what open lots had won when the day began
     */
    public function net(int $account, RateTable $rates, int $day, array $positions, callable $result, Money $carried): Money
    {
        $marked = new MixedSum();
        foreach ($positions as $of) {
            if ($of->position->lots !== 0 && $of->mark !== null) {
                $marked->add($of->contract->money($of->position->lots * $of->mark));
            }
        }

        return $this->still($account, $rates, $day, $positions, $result)->minus($carried)->plus($marked->in($rates));
    }

    /**
     * What no mark moves: the day's result less fees, and open positions marked at tick 0. The digits of an average
     * and of what was realised grow with each partial close until the position is flat, but they are fractions of the
     * same fills: together they are mostly whole ticks again. So they are added up once a fill, not once a print.
     *
     * @param array<string, MarkedPosition> $positions
     * @param callable(): DayResult         $result
     */
    private function still(int $account, RateTable $rates, int $day, array $positions, callable $result): Money
    {
        $fills = 0;
        $open = [];
        foreach ($positions as $code => $of) {
            $fills += $of->position->fills;
            if ($of->position->lots !== 0 && $of->mark !== null) {
                $open[$code] = $of;
            }
        }
        $contracts = array_map(static fn(MarkedPosition $of): Contract => $of->contract, $open);
        $known = $this->still[$account] ?? null;
        if ($known !== null && $known[0] === $fills && $known[1] === $day && $known[2] === $rates && $known[3] === $contracts) {
            return $known[4];
        }
        $today = $result();
        $unmarked = new MixedSum();
        foreach ($open as $of) {
            $unmarked->add($of->contract->money($of->position->openTicks(0)));
        }
        $still = $today->net()->plus($unmarked->in($rates));
        $this->still[$account] = [$fills, $day, $rates, $contracts, $still];

        return $still;
    }
}
