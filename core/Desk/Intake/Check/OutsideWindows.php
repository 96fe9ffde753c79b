<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Refusal\Refusal;

/** In the times that a trader keeps free nothing new is entered. */
final class OutsideWindows implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        $now = $ticket->request->now;
        $window = $ticket->mayOpen() && $ticket->request->releaseWhen === null ? $account->limits->windowAt($now) : null;

        return $window === null ? null : Refusal::entriesStopped("{$window->words()} is a time without new entries", (int) $window->until($now));
    }
}
