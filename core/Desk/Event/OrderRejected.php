<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

/** The venue did not take the order. */
final readonly class OrderRejected implements Event
{
    public const TYPE = 'order-rejected';

    public function __construct(
        public int $order,
        public string $because,
    ) {}
}
