<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Refusal\Refusal;

/** No entry is larger than the account's order limit. */
final class OrderSize implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        return $ticket->mayOpenLots() > 0 && $ticket->quantity > $account->orderLimit
            ? Refusal::orderLimit($ticket->quantity, $account->orderLimit)
            : null;
    }
}
