<?php

declare(strict_types=1);

namespace Lotrik\Desk\Check;

use Lotrik\Desk\Account;
use Lotrik\Desk\Holding;
use Lotrik\Desk\Quote;
use Lotrik\Desk\Refusal;
use Lotrik\Desk\Ticket;

/** No entry is larger than the account's order limit. */
final class OrderSize implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, Holding $holding, Quote $quote): ?Refusal
    {
        return $ticket->mayOpenLots() > 0 && $ticket->quantity > $account->orderLimit
            ? new Refusal('order-limit', "{$ticket->quantity} lots are over the order limit of {$account->orderLimit}; at most {$account->orderLimit} in one order", '/quantity')
            : null;
    }
}
