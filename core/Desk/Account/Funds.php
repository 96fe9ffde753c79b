<?php

declare(strict_types=1);

namespace Lotrik\Desk\Account;

use Lotrik\Contract\Contract;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Quotes;
use Lotrik\Money\Money;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Risk\BuyingPower;
use Lotrik\Risk\DayResult;
use Lotrik\Risk\Margin;

/** The money of an account: what it has made, what its positions and entries hold back, and what is left. */
final class Funds
{
    public function __construct(private readonly DeskState $state, private readonly Quotes $quotes) {}

    /**
     * @param int                  $at   ms since 1970 UTC
     * @param AccountPosition|null $what another position than the account has in that contract, to ask "what if it were so"
     */
    public function of(Account $account, int $at, ?AccountPosition $what = null): BuyingPower
    {
        $margin = $open = Money::zero($account->rates->base);
        $holdings = [];
        foreach ($this->state->holdingsOf($account->id) as $holding) {
            $holdings[$holding->contract] = $holding;
        }
        if ($what !== null) {
            $holdings[$what->contract] = $what;
        }
        foreach ($holdings as $code => $holding) {
            $contract = $this->state->contracts[$code];
            if (! $account->rates->knows($contract->currency)) {
                continue;
            }
            $margin = $margin->plus($account->rates->toBase(Margin::perLot($contract, $at)->times(self::worst($holding))));
            $mark = $holding->position->lots === 0 ? null : $this->quotes->of($code)->exit($holding->position->lots);
            if ($mark !== null) {
                $open = $open->plus($account->rates->toBase($contract->money($holding->position->openTicks($mark))));
            }
        }

        return new BuyingPower($this->balance($account), $open, $margin);
    }

    /**
     * Lots of a contract that may come to be open and that would be too many, were the initial margin asked for them now.
     *
     * @param int $at ms since 1970 UTC
     */
    public function lotsOverInitial(Account $account, AccountPosition $holding, Contract $contract, int $at): int
    {
        $lots = self::worst($holding);
        $initial = $account->rates->toBase(Money::of($contract->initialMargin, $contract->currency));
        $more = $initial->minus($account->rates->toBase(Margin::perLot($contract, $at)))->times($lots);
        $short = $more->minus($this->of($account, $at)->left);
        if (! $short->isPositive() || ! $initial->isPositive()) {
            return 0;
        }

        // Rounded up: a lot of which only a part is covered is one too many.
        $whole = $short->wholeTimes($initial, $lots);

        return min($lots, $whole + ($initial->times($whole)->compareTo($short) < 0 ? 1 : 0));
    }

    /** What the account was opened with, and what it has made since, after fees. */
    public function balance(Account $account): Money
    {
        $tally = [];
        foreach (($this->state->made[$account->id] ?? null)?->of(DayTally::ALL) ?? [] as $code => [$ticks, $lots]) {
            $tally[] = [$this->state->contracts[$code], $ticks, $lots];
        }

        return $account->balance->plus(DayResult::of($account->rates, $tally)->net());
    }

    /** The most lots that may come to be open in a contract. */
    public static function worst(AccountPosition $holding): int
    {
        return self::worstWith($holding, Side::Buy, 0);
    }

    /** The same with so many more lots that may open on a side. */
    public static function worstWith(AccountPosition $holding, Side $side, int $lots): int
    {
        $working = ['buy' => $side === Side::Buy ? $lots : 0, 'sell' => $side === Side::Sell ? $lots : 0];
        foreach ($holding->working as $order) {
            $working[$order->side->value] += $order->role === Role::Entry ? $order->leaves() : 0;
        }

        return Margin::worstLots($holding->position->lots, $working['buy'], $working['sell']);
    }
}
