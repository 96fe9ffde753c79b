<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Account;

use Lotrik\Desk\Event\Event;

/** A trade has ended: the position in a contract was flat before it and is flat, or on the other side, now. */
final readonly class TradeEnded implements Event
{
    public const TYPE = 'trade-ended';

    public function __construct(
        public int $account,
        public string $contract,
        /** what it made less fees, exact, in the account's currency */
        public string $net,
        public bool $isLoss,
        /** when the account's trading day began, ms since 1970 UTC */
        public int $day,
    ) {}
}
