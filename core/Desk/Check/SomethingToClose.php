<?php

declare(strict_types=1);

namespace Lotrik\Desk\Check;

use Lotrik\Desk\Account;
use Lotrik\Desk\Holding;
use Lotrik\Desk\Quote;
use Lotrik\Desk\Refusal;
use Lotrik\Desk\Ticket;
use Lotrik\Order\Role;

/** A close needs a position on the other side. */
final class SomethingToClose implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, Holding $holding, Quote $quote): ?Refusal
    {
        return $ticket->role === Role::Close && $ticket->closes === 0
            ? new Refusal('nothing-to-close', "there is no position that {$ticket->request->side->value} would close; leave closing out to open one", '/closing')
            : null;
    }
}
