<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Order\OrderKind;
use Lotrik\Refusal\Refusal;

/** A stop whose trigger the market has passed would be a market order in disguise. */
final class StopNotPassed implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        $request = $ticket->request;
        // A held order is looked at again when it is due.
        if ($request->trigger === null || $request->releaseWhen !== null) {
            return null;
        }
        if (! $quote->isPassed($request->kind->triggerSide($request->side), $request->trigger)) {
            return null;
        }

        $isTouched = $request->kind === OrderKind::IfTouched;
        $price = $request->contract->price($request->trigger);

        return Refusal::triggerPassed(
            ($isTouched ? 'an order' : 'a stop')." to {$request->side->value}",
            $price,
            $isTouched ? 'touched' : 'passed',
            $request->contract->price((int) $quote->last),
            "a market order, or a limit at $price, would do",
        );
    }
}
