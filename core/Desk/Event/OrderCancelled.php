<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

/** The order is gone; what had filled stays filled. */
final readonly class OrderCancelled implements Event
{
    public const TYPE = 'order-cancelled';

    public function __construct(
        public int $order,
        public string $because,
    ) {}
}
