<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Order\Role;
use Lotrik\Refusal\Refusal;

/** A close needs a position on the other side. */
final class SomethingToClose implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        return $ticket->role === Role::Close && $ticket->closes === 0
            ? Refusal::nothingToClose($ticket->request->side->value)
            : null;
    }
}
