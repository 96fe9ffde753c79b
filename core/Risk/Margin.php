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

        return $isLate ? $contract->overnightPerLot : $contract->dayPerLot;
    }
}
