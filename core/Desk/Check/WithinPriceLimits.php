<?php

declare(strict_types=1);

namespace Lotrik\Desk\Check;

use Lotrik\Desk\Account;
use Lotrik\Desk\Holding;
use Lotrik\Desk\Quote;
use Lotrik\Desk\Ticket;
use Lotrik\Refusal\Refusal;

/** An entry beyond the day's price limits could not trade before the next settlement. */
final class WithinPriceLimits implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, Holding $holding, Quote $quote): ?Refusal
    {
        $request = $ticket->request;

        return ! $ticket->mayOpen() || $request->hold !== null ? null : $quote->beyondLimits($request->contract, $request->price, $request->trigger);
    }
}
