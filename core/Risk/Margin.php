<?php

declare(strict_types=1);

namespace Lotrik\Risk;

use Lotrik\Contract\Contract;
use Lotrik\Money\Money;

/**
 * What a position holds back of an account: the day-trade margin until shortly before the close, then the initial margin, since
 * the lots may stay overnight. Common practice, no source; how long before the close is this venue's own.
 */
final class Margin
{
    public const INITIAL_BEFORE_CLOSE_MS = 15 * 60_000;

    /**
     * For one lot, in the contract's currency.
     *
     * @param int $at ms since 1970 UTC
     */
    public static function perLot(Contract $contract, int $at): Money
    {
        $hours = $contract->session->at($at);
        $isLate = $hours->open && $hours->until !== null && $at >= $hours->until - self::INITIAL_BEFORE_CLOSE_MS;

        return Money::of($isLate ? $contract->initialMargin : $contract->dayMargin, $contract->currency);
    }

    /**
     * The most lots that may come to be open: each side as if all of its entries filled and none of the other's.
     *
     * @param int $position net, positive for long
     * @param int $buys     lots of entries that work
     */
    public static function worstLots(int $position, int $buys, int $sells): int
    {
        return max(abs($position), $position + $buys, $sells - $position);
    }
}
