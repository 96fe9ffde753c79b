<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Account\Funds;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Desk\Quotes;
use Lotrik\Refusal\Refusal;
use Lotrik\Risk\Margin;

/** The margin of all that may come to be open, with this order, fits into what the account has. */
final class BuyingPower implements EntryCheck
{
    private readonly Funds $funds;

    public function __construct(DeskState $state, Quotes $quotes)
    {
        $this->funds = new Funds($state, $quotes);
    }

    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        $lots = $ticket->mayOpenLots();
        $contract = $ticket->request->contract;
        if ($lots === 0 || $contract->dayMargin->isZero()) {
            return null;
        }
        $perLot = $account->rates->toBase(Margin::perLot($contract, $ticket->request->now));
        $more = Funds::worstWith($holding, $ticket->request->side, $lots) - Funds::worst($holding);
        $left = $this->funds->of($account, $ticket->request->now, $holding)->left;
        if ($more <= 0 || ! $perLot->times($more)->minus($left)->isPositive()) {
            return null;
        }
        $fit = $left->wholeTimes($perLot, $more);

        return Refusal::margin($lots, $perLot->times($more)->display(), $left->display(), $account->rates->base->code, $fit + $lots - $more);
    }
}
