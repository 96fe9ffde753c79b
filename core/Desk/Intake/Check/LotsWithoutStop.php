<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Order\Role;
use Lotrik\Refusal\Refusal;

/** Lots that a stop covers are not covered once more: two stops for one lot would be one too many to watch and to take off. */
final class LotsWithoutStop implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        $coverage = $holding->coverage();
        if ($ticket->role !== Role::Close || ! $ticket->request->kind->isStop() || $coverage->uncovered() > 0) {
            return null;
        }
        $stop = $coverage->nearestStop();

        return Refusal::alreadyCovered($ticket->closes, $stop?->id, $stop === null ? null : $ticket->request->contract->write((int) $stop->trigger));
    }
}
