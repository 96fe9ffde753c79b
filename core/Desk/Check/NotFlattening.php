<?php

declare(strict_types=1);

namespace Lotrik\Desk\Check;

use Lotrik\Desk\Account;
use Lotrik\Desk\Holding;
use Lotrik\Desk\Quote;
use Lotrik\Desk\Ticket;
use Lotrik\Refusal\Refusal;

/** A contract that is being flattened takes no new entry. */
final class NotFlattening implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, Holding $holding, Quote $quote): ?Refusal
    {
        return $holding->isClosingDown() && $ticket->mayOpen()
            ? Refusal::flattening($holding->contract, 'entries are taken again once it is flat')
            : null;
    }
}
