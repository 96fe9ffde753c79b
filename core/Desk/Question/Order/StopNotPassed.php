<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Order;

use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Order\OrderKind;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** A stop whose trigger the market has passed would be a market order in disguise. */
final class StopNotPassed implements Rule
{
    public function refuse(Proposal $proposal): ?Refusal
    {
        foreach ($proposal->orders as $ticket) {
            $refusal = $this->refuseTicket($ticket, $proposal, 'a market order, or a limit at %s, would be accepted');
            if ($refusal !== null) {
                return $refusal;
            }
        }
        [$to, $changed] = [$proposal->to, $proposal->changed];
        // An exit that is moved through the market closes its lots there.
        $moves = $to !== null && $changed?->role->isExit() === false && ! $changed->triggered
            && $to->request->trigger !== $changed->trigger;

        return $moves ? $this->refuseTicket($to, $proposal, 'a market order would be accepted') : null;
    }

    /** @param string $remedy with the place of the price in it */
    private function refuseTicket(Ticket $ticket, Proposal $proposal, string $remedy): ?Refusal
    {
        $request = $ticket->request;
        // A held order is looked at again when it is due.
        if ($request->trigger === null || $request->releaseWhen !== null) {
            return null;
        }
        if (! $proposal->quote->isPassed($request->kind->triggerSide($request->side), $request->trigger)) {
            return null;
        }
        $isTouched = $request->kind === OrderKind::IfTouched;
        $price = $request->contract->price($request->trigger);

        return self::triggerPassed(
            ($isTouched ? 'an order' : 'a stop')." to {$request->side->value}",
            $price,
            $isTouched ? 'touched' : 'passed',
            $request->contract->price((int) $proposal->quote->last),
            sprintf($remedy, $price),
        );
    }

    /**
     * @param string $order  such as "a stop to buy"
     * @param string $passed passed, or touched
     */
    private static function triggerPassed(string $order, string $price, string $passed, string $market, string $remedy): Refusal
    {
        return new Refusal(RefusalCode::StopPassed, "$order at $price is already $passed: the market is at $market; $remedy", '/trigger');
    }
}
