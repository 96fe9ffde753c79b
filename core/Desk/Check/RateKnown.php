<?php

declare(strict_types=1);

namespace Lotrik\Desk\Check;

use Lotrik\Desk\Account;
use Lotrik\Desk\Holding;
use Lotrik\Desk\Quote;
use Lotrik\Desk\Ticket;
use Lotrik\Refusal\Refusal;

/** A position in a currency without a rate could not be counted into the day's result, and so into no limit. */
final class RateKnown implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, Holding $holding, Quote $quote): ?Refusal
    {
        $contract = $ticket->request->contract;

        return $ticket->mayOpen() && ! $account->rates->knows($contract->currency)
            ? Refusal::noRate($contract->code, $contract->currency->code, $account->rates->base->code)
            : null;
    }
}
