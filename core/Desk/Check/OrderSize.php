<?php

declare(strict_types=1);

namespace Lotrik\Desk\Check;

use Lotrik\Desk\Account;
use Lotrik\Desk\Holding;
use Lotrik\Desk\Quote;
use Lotrik\Desk\Ticket;
use Lotrik\Refusal\Refusal;

/** No entry is larger than the account's order limit. */
final class OrderSize implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, Holding $holding, Quote $quote): ?Refusal
    {
        return $ticket->mayOpenLots() > 0 && $ticket->quantity > $account->orderLimit
            ? Refusal::orderLimit($ticket->quantity, $account->orderLimit)
            : null;
    }
}
