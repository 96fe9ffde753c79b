<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Account\DeskOrder;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Order\Role;
use Lotrik\Refusal\Refusal;

/** So many entries work in a contract at the same time, and no more. */
final class WorkingOrders implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        $most = $account->limits->in($holding->contract)->workingOrders;
        $working = count(array_filter($holding->working, static fn(DeskOrder $o): bool => $o->role === Role::Entry));

        return $most !== null && $ticket->mayOpen() && $working + 1 > $most
            ? Refusal::workingOrders(1, $working, $most, $holding->contract)
            : null;
    }
}
