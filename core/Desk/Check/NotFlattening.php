<?php

declare(strict_types=1);

namespace Lotrik\Desk\Check;

use Lotrik\Desk\Account;
use Lotrik\Desk\Holding;
use Lotrik\Desk\Quote;
use Lotrik\Desk\Refusal;
use Lotrik\Desk\Ticket;

/** A contract that is being flattened takes no new entry. */
final class NotFlattening implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, Holding $holding, Quote $quote): ?Refusal
    {
        return $holding->isClosingDown() && $ticket->mayOpen()
            ? new Refusal('flattening', "{$holding->contract} is being flattened; entries are taken again once it is flat")
            : null;
    }
}
