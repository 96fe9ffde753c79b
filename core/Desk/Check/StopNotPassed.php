<?php

declare(strict_types=1);

namespace Lotrik\Desk\Check;

use Lotrik\Desk\Account;
use Lotrik\Desk\Holding;
use Lotrik\Desk\Quote;
use Lotrik\Desk\Refusal;
use Lotrik\Desk\Ticket;
use Lotrik\Order\OrderKind;

/** A stop whose trigger the market has passed would be a market order in disguise. */
final class StopNotPassed implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, Holding $holding, Quote $quote): ?Refusal
    {
        $request = $ticket->request;
        // A held order is looked at again when it is due.
        if ($request->trigger === null || $request->hold !== null || ! $quote->isPassed($request->kind->triggerSide($request->side), $request->trigger)) {
            return null;
        }

        return new Refusal('stop-passed', sprintf(
            '%s to %s at %s is already %s: the market is at %s; a market order, or a limit at %s, would do',
            $request->kind === OrderKind::IfTouched ? 'an order' : 'a stop', $request->side->value, $request->contract->price($request->trigger), $request->kind === OrderKind::IfTouched ? 'touched' : 'passed', $request->contract->price((int) $quote->last), $request->contract->price($request->trigger),
        ), '/trigger');
    }
}
