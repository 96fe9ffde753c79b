<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake;

use Lotrik\Desk\Account\Account;
use Lotrik\Money\Money;
use Lotrik\Risk\AccountRisk;

/** Whether an order would risk more than the day still allows, together with what is at risk already. */
final class OverLossRoom
{
    /**
     * @param array<string, mixed> $preview of it
     *
     * @return string|null in words; null where there is room, or where nothing limits its risk, which its words say
     */
    public static function words(array $preview, Ticket $ticket, Account $account, AccountRisk $now): ?string
    {
        if ($ticket->opens === 0 || ! is_string($preview['risk']) || ! is_string($preview['fees'])) {
            return null;
        }
        $currency = $ticket->request->contract->currency;
        $risk = $account->rates->toBase(Money::of($preview['risk'], $currency)->plus(Money::of($preview['fees'], $currency)));
        // Lots that join a position's exits are counted with the whole of it.
        $together = $ticket->joins === null ? $risk->plus($now->fromHere) : $risk;

        return $together->minus($now->lossRoom->left)->isPositive()
            ? "over the loss room of {$now->lossRoom->left->display()} {$account->rates->base->code}"
            : null;
    }
}
