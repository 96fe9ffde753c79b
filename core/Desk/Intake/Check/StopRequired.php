<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Intake\EntryRisk;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Refusal\Refusal;

/** Where a trader wants each lot to have a protective stop, none is entered without. */
final class StopRequired implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        return $account->limits->in($holding->contract)->stopRequired && $ticket->mayOpenLots() > 0 && EntryRisk::of($ticket) === null
            ? Refusal::stopRequired('an entry needs an exit plan with a stop for each of its lots', '/exit_plan')
            : null;
    }
}
