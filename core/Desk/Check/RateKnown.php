<?php

declare(strict_types=1);

namespace Lotrik\Desk\Check;

use Lotrik\Desk\Account;
use Lotrik\Desk\Holding;
use Lotrik\Desk\Quote;
use Lotrik\Desk\Refusal;
use Lotrik\Desk\Ticket;

/** A position in a currency without a rate could not be counted into the day's result, and so into no limit. */
final class RateKnown implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, Holding $holding, Quote $quote): ?Refusal
    {
        $contract = $ticket->request->contract;

        return $ticket->mayOpen() && ! $account->rates->knows($contract->currency)
            ? new Refusal('no-rate', "{$contract->code} is in {$contract->currency->code}, and this account has no rate from it to {$account->rates->base->code}; a rate must be set before anything is entered there")
            : null;
    }
}
