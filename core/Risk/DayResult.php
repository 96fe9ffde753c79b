<?php

declare(strict_types=1);

namespace Lotrik\Risk;

use Lotrik\Desk\Account;
use Lotrik\Desk\DeskState;
use Lotrik\Money\Money;

/** What an account has realised and paid in fees since its day began, in its base currency. */
final readonly class DayResult
{
    private function __construct(public Money $realised, public Money $fees) {}

    /** @param int $at ms since 1970 UTC */
    public static function of(Account $account, DeskState $state, int $at): self
    {
        $base = $account->rates->toBase(...);
        $realised = $fees = Money::zero($account->rates->base);
        $tally = ($state->days[$account->id] ?? null)?->of($at) ?? [];
        foreach ($tally as $code => [$ticks, $lots]) {
            $contract = $state->contracts[$code];
            $realised = $realised->plus($base($contract->money($ticks)));
            $fees = $fees->plus($base($contract->fees($lots)));
        }

        return new self($realised, $fees);
    }
}
