<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Order;

/** The venue has the order. */
final readonly class OrderAccepted implements OfOrder
{
    public const TYPE = 'order-accepted';

    public const VERSION = 2;

    public function __construct(
        public int $order,
        /** the venue's id of the execution report */
        public ?string $execution = null,
    ) {}

    public function order(): int
    {
        return $this->order;
    }

    public function execution(): ?string
    {
        return $this->execution;
    }
}
