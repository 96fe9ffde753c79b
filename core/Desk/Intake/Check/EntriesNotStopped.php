<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Refusal\Refusal;

/** After too many losses, or too large a one, nothing new is entered for a time. */
final class EntriesNotStopped implements EntryCheck
{
    public function __construct(private readonly DeskState $state) {}

    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        [$until, $because] = $this->state->entriesStopped[$account->id] ?? [0, ''];

        return $ticket->mayOpen() && $ticket->request->now < $until ? Refusal::entriesStopped($because, $until) : null;
    }
}
