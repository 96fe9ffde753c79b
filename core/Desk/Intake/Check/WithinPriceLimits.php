<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Refusal\Refusal;

/** An entry beyond the day's price limits could not trade before the next settlement. */
final class WithinPriceLimits implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        $request = $ticket->request;

        return ! $ticket->mayOpen() || $request->releaseWhen !== null
            ? null
            : $quote->beyondLimits($request->contract, $request->price, $request->trigger);
    }
}
