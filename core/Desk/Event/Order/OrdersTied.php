<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Order;

use Lotrik\Desk\Event\Event;

/** Two working orders of a contract are one group. */
final readonly class OrdersTied implements Event
{
    public const TYPE = 'orders-tied';

    public function __construct(
        public int $account,
        public string $contract,
        public int $first,
        public int $second,
        public bool $oco,
    ) {}
}
