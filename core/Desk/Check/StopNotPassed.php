<?php

declare(strict_types=1);

namespace Lotrik\Desk\Check;

use Lotrik\Desk\Account;
use Lotrik\Desk\Holding;
use Lotrik\Desk\Quote;
use Lotrik\Desk\Refusal;
use Lotrik\Desk\Ticket;

/** A stop whose trigger the market has passed would be a market order in disguise. */
final class StopNotPassed implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, Holding $holding, Quote $quote): ?Refusal
    {
        $request = $ticket->request;
        if ($request->trigger === null || ! $quote->isPassed($request->side, $request->trigger)) {
            return null;
        }

        return new Refusal('stop-passed', sprintf(
            'a stop to %s at %s is already passed: the market is at %s; a market order, or a limit at %s, would do',
            $request->side->value, $request->contract->price($request->trigger), $request->contract->price((int) $quote->last), $request->contract->price($request->trigger),
        ), '/trigger');
    }
}
