<?php

declare(strict_types=1);

namespace Lotrik\Desk\Check;

use Lotrik\Desk\Account;
use Lotrik\Desk\Holding;
use Lotrik\Desk\Quote;
use Lotrik\Desk\Ticket;
use Lotrik\Order\Role;
use Lotrik\Refusal\Refusal;

/** A close needs a position on the other side. */
final class SomethingToClose implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, Holding $holding, Quote $quote): ?Refusal
    {
        return $ticket->role === Role::Close && $ticket->closes === 0
            ? Refusal::nothingToClose($ticket->request->side->value)
            : null;
    }
}
