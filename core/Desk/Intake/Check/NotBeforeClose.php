<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Refusal\Refusal;

/** Where a trader wants to be flat before the close, nothing new is entered from then on. */
final class NotBeforeClose implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        $minutes = $account->limits->flattenBeforeClose;
        $request = $ticket->request;
        $hours = $request->contract->session->at($request->now);

        return $minutes !== null && $ticket->mayOpen() && $request->releaseWhen === null && $hours->open && $hours->until !== null
            && $request->now >= $hours->until - $minutes * 60_000
            ? Refusal::entriesStopped("by your limits {$request->contract->code} is flat $minutes minutes before its close", $hours->until)
            : null;
    }
}
