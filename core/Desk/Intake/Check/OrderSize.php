<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Refusal\Refusal;

/** No entry is larger than the account allows in the contract. */
final class OrderSize implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        $most = $account->limits->in($holding->contract)->orderLots;

        return $most !== null && $ticket->mayOpenLots() > 0 && $ticket->quantity > $most ? Refusal::orderLimit($ticket->quantity, $most) : null;
    }
}
