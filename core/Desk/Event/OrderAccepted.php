<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

/** The venue has the order. */
final readonly class OrderAccepted implements Event
{
    public const TYPE = 'order-accepted';

    public function __construct(
        public int $order,
    ) {}
}
