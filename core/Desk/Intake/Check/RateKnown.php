<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Refusal\Refusal;

/** A position in a currency without a rate could not be counted into the day's result, and so into no limit. */
final class RateKnown implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        $contract = $ticket->request->contract;

        return $ticket->mayOpen() && ! $account->rates->knows($contract->currency)
            ? Refusal::noRate($contract->code, $contract->currency->code, $account->rates->base->code)
            : null;
    }
}
