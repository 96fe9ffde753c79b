<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Refusal\Refusal;

/** An account that was closed is only read. */
final class AccountOpen implements EntryCheck
{
    public function __construct(private readonly DeskState $state) {}

    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        return $this->state->isClosed($account->id) ? Refusal::accountClosed($account->name) : null;
    }
}
