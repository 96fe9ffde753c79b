<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Refusal\Refusal;

/** No more entries in a minute than the trader allows. */
final class OrderRate implements EntryCheck
{
    private const MINUTE = 60_000;

    public function __construct(private readonly DeskState $state) {}

    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        $most = $account->limits->ordersAMinute;
        if ($most === null || ! $ticket->mayOpen()) {
            return null;
        }
        $sent = array_filter(
            $this->state->entriesSent[$account->id] ?? [],
            static fn(int $at): bool => $at > $ticket->request->now - self::MINUTE,
        );

        return count($sent) < $most
            ? null
            : Refusal::tooManyEntries(count($sent), $most, array_values($sent)[count($sent) - $most] + self::MINUTE);
    }
}
