<?php

declare(strict_types=1);

namespace Lotrik\Desk\Check;

use Lotrik\Desk\Account;
use Lotrik\Desk\Holding;
use Lotrik\Desk\Quote;
use Lotrik\Desk\Refusal;
use Lotrik\Desk\Ticket;
use Lotrik\Order\Role;

/** Position and working entries on one side together stay within the account's position limit. */
final class PositionLimit implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, Holding $holding, Quote $quote): ?Refusal
    {
        if ($ticket->mayOpenLots() === 0) {
            return null;
        }
        $side = $ticket->request->side;
        $lots = max(0, $holding->position->lots * $side->sign()) + $ticket->mayOpenLots();
        foreach ($holding->working as $order) {
            $lots += $order->role === Role::Entry && $order->side === $side ? $order->leaves() : 0;
        }

        return $lots > $account->positionLimit
            ? new Refusal('position-limit', sprintf('that would make %d lots with what is open and working, over the position limit of %d; at most %d more', $lots, $account->positionLimit, max(0, $account->positionLimit - $lots + $ticket->mayOpenLots())), '/quantity')
            : null;
    }
}
