<?php

declare(strict_types=1);

namespace Lotrik\Desk\Account;

use Lotrik\Desk\DeskState;
use Lotrik\Money\Money;
use Lotrik\Risk\DayResult;

/**
 * What an account is worth closed: what it was opened with, and what it has made since, after fees. Whatever is said in percent of
 * the balance is percent of this.
 */
final class Balance
{
    public static function of(Account $account, DeskState $state): Money
    {
        $tally = [];
        foreach ($state->bookOf($account->id)->made->of(DayTally::ALL) as $code => [$ticks, $lots]) {
            $tally[] = [$state->contracts[$code], $ticks, $lots];
        }

        return $account->opening->plus(DayResult::of($account->rates, $tally)->net());
    }
}
