<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Order\Role;
use Lotrik\Refusal\Refusal;

/** Position and working entries on one side together stay within the account's position limit. */
final class PositionLimit implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        $most = $account->limits->in($holding->contract)->positionLots;
        if ($most === null || $ticket->mayOpenLots() === 0) {
            return null;
        }
        $side = $ticket->request->side;
        $open = max(0, $holding->position->lots * $side->sign());
        $working = 0;
        foreach ($holding->working as $order) {
            $working += $order->role === Role::Entry && $order->side === $side ? $order->leaves() : 0;
        }

        return $open + $working + $ticket->mayOpenLots() > $most
            ? Refusal::positionLimit($ticket->mayOpenLots(), $open, $working, $most)
            : null;
    }
}
