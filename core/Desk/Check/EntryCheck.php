<?php

declare(strict_types=1);

namespace Lotrik\Desk\Check;

use Lotrik\Desk\Account;
use Lotrik\Desk\Holding;
use Lotrik\Desk\Quote;
use Lotrik\Desk\Ticket;
use Lotrik\Refusal\Refusal;

/** One reason not to take an order. Orders that only reduce pass every check of size. */
interface EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, Holding $holding, Quote $quote): ?Refusal;
}
