<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Refusal\Refusal;

/** A contract that is being flattened takes no new entry. */
final class NotFlattening implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        return $holding->isClosingDown() && $ticket->mayOpen()
            ? Refusal::flattening($holding->contract, 'entries are taken again once it is flat')
            : null;
    }
}
