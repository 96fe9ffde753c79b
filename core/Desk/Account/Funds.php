<?php

declare(strict_types=1);

namespace Lotrik\Desk\Account;

use Lotrik\Contract\Contract;
use Lotrik\Desk\AtRisk\Reach;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Quotes;
use Lotrik\Money\MixedSum;
use Lotrik\Money\Money;
use Lotrik\Risk\BuyingPower;
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
        [$margin, $open, $losses] = [new MixedSum(), new MixedSum(), new MixedSum()];
        $holdings = $contracts = [];
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
            $lots = Reach::of($holding)->most();
            $of = Margin::perLot($contract, $at)->times($lots);
            $margin->add($of);
            $contracts[$code] = [$lots, $of];
            $mark = $holding->position->lots === 0 ? null : $this->quotes->of($code)->mark();
            if ($mark !== null) {
                $here = $contract->money($holding->position->openTicks($mark));
                $open->add($here);
                if ($here->isNegative()) {
                    $losses->add($here);
                }
            }
        }

        $rates = $account->rates;

        return new BuyingPower(Balance::of($account, $this->state), $open->in($rates), $losses->in($rates), $margin->in($rates), $contracts);
    }

    /**
     * Lots of a contract that may come to be open and that would be too many, were the initial margin asked for them now.
     *
     * @param int $at ms since 1970 UTC
     */
    public function lotsOverInitial(Account $account, AccountPosition $holding, Contract $contract, int $at): int
    {
        $lots = Reach::of($holding)->most();
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
}
