<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Order;

use Lotrik\Desk\Event\Event;

/** The group of an order is dissolved. */
final readonly class OrderUntied implements Event
{
    public const TYPE = 'order-untied';

    public function __construct(
        public int $order,
        public int $other,
    ) {}
}
