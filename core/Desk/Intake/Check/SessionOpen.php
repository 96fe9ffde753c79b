<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Refusal\Refusal;

/** Outside its session a contract takes no order but one that is held until a time or a condition comes. */
final class SessionOpen implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        $request = $ticket->request;
        $hours = $request->contract->session->at($request->now);

        return $hours->open || $request->releaseWhen !== null
            ? null
            : Refusal::marketClosed($request->contract->code, $hours->words($request->now), 'an order with release_at can wait for it');
    }
}
