<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Order\OrderKind;
use Lotrik\Refusal\Refusal;

/** A slip of the finger: an entry that could be filled much worse than the market is. */
final class PriceBand implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        $request = $ticket->request;
        $band = $account->limits->in($holding->contract)->bandTicks;
        $market = $quote->touch($request->side) ?? $quote->last;
        // A held order is looked at again when it is due; one that waits for a better price is filled no worse.
        $level = $request->releaseWhen !== null ? null : match ($request->kind) {
            OrderKind::Limit, OrderKind::StopLimit => $request->price,
            OrderKind::Stop => $request->trigger,
            OrderKind::Market, OrderKind::IfTouched => null,
        };
        if ($band === null || $market === null || $level === null || ! $ticket->mayOpen()) {
            return null;
        }
        $worse = $request->side->sign() * ($level - $market);

        return $worse <= $band ? null : Refusal::priceBand(
            $request->contract->price($level),
            $worse,
            $band,
            $request->contract->price($market),
            $request->contract->price($market + $request->side->sign() * $band),
            $request->kind === OrderKind::Stop ? '/trigger' : '/price',
        );
    }
}
