<?php

declare(strict_types=1);

namespace Lotrik\Risk;

use Lotrik\Desk\Account;
use Lotrik\Desk\Desk;
use Lotrik\Money\Money;

/**
 * What an account has at risk and what its day has brought, in its base currency, with each contract in its own.
 *
 * The loss room is what is left of the daily loss limit: a day's loss (realised − fees + open) eats it, a gain does
 * not add to it.
 */
final readonly class AccountRisk
{
    /** @param array<string, array{lots: int, risk: OpenRisk, open: Money}> $byContract contracts with an open position */
    private function __construct(
        public Money $risk,
        public Money $lockedIn,
        public Money $fromHere,
        public int $unprotected,
        public Money $realised,
        public Money $open,
        public Money $fees,
        public Money $net,
        public Money $lossRoom,
        public array $byContract,
    ) {}

    /** @param int $at ms since 1970 UTC */
    public static function of(Account $account, Desk $desk, int $at): self
    {
        $base = $account->rates->toBase(...);
        $risk = $locked = $fromHere = $open = Money::zero($account->rates->base);
        $unprotected = 0;
        $byContract = [];
        foreach ($desk->state->holdings as $code => $holdings) {
            $position = ($holdings[$account->id] ?? null)?->position;
            if ($position === null || $position->lots === 0) {
                continue;
            }
            $contract = $desk->state->contracts[$code];
            $mark = $desk->quote($code)->exit($position->lots);
            $of = OpenRisk::of($position, $contract, $holdings[$account->id]->protected(), $mark);
            $here = $contract->money($mark === null ? 0 : $position->openTicks($mark));
            $byContract[$code] = ['lots' => $position->lots, 'risk' => $of, 'open' => $here];
            $risk = $risk->plus($base($of->risk));
            $locked = $locked->plus($base($of->lockedIn));
            $fromHere = $fromHere->plus($base($of->fromHere));
            $open = $open->plus($base($here));
            $unprotected += $of->unprotected;
        }
        $day = DayResult::of($account, $desk->state, $at);
        $net = $day->realised->minus($day->fees)->plus($open);
        $limit = $account->dailyLossLimit;

        return new self($risk, $locked, $fromHere, $unprotected, $day->realised, $open, $day->fees, $net, $net->isNegative() ? $limit->plus($net) : $limit, $byContract);
    }
}
