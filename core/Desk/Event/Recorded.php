<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

use Lotrik\Desk\Order\DeskOrder;

/** An event that has been applied: one row of the journal to be. */
final readonly class Recorded
{
    /** @param int $at ms since 1970 UTC */
    public function __construct(
        public int $sequence,
        public int $at,
        public ?int $account,
        public ?string $contract,
        public ?string $commandId,
        public Event $event,
        public string $words,
        /** @var list<DeskOrder> that the event changed */ public array $orders = [],
    ) {}
}
