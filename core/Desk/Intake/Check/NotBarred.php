<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Refusal\Refusal;

/** A barred account opens nothing; orders that only reduce are taken all the same. */
final class NotBarred implements EntryCheck
{
    public function __construct(private readonly DeskState $state) {}

    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        return $ticket->mayOpen() && $this->state->isBarred($account->id, $ticket->request->now)
            ? Refusal::barred($this->state->barred[$account->id], $this->state->barredFor[$account->id])
            : null;
    }
}
