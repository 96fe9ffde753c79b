<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Refusal\Refusal;

/** One reason not to take an order. Orders that only reduce pass every check of size. */
interface EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal;
}
