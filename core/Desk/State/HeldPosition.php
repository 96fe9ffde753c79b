<?php

declare(strict_types=1);

namespace Lotrik\Desk\State;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Position\AccountPosition;

/** The account's part in a contract, for an event that changes it: made where there is none, and marked with the event's sequence. */
final class HeldPosition
{
    public static function of(DeskState $state, int $account, string $contract): AccountPosition
    {
        $holding = $state->holdings[$contract][$account] ??= new AccountPosition($account, $contract);
        $holding->sequence = $state->sequence;

        return $holding;
    }
}
